<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Fixture\Dummy;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Force\ForceField;
use YardBreak\Core\Stage\Kind\ForceKind;

/** A force: the same pull along x everywhere. */
final readonly class Sideways implements ForceField, ForceKind
{
    private function __construct(private float $pull)
    {
    }

    public static function make(Settings $settings): ForceField
    {
        return new self($settings->float('pull'));
    }

    public static function inputs(Settings $settings): array
    {
        return [$settings->float('pull')];
    }

    public function accelerate(array $x, array $y, array $z, float $frame, array &$ax, array &$ay, array &$az): void
    {
        foreach ($ax as $i => $a) {
            $ax[$i] = $a + $this->pull;
        }
    }

    public function air(array $x, array $y, array $z, float $frame, array &$u, array &$v, array &$w): void
    {
    }

    public function uniform(float $frame): array
    {
        return [$this->pull, 0.0, 0.0];
    }

    public function sample(float $frame): array
    {
        return [$this->pull];
    }

    public function changes(): array
    {
        return [];
    }
}
