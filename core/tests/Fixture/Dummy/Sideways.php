<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Fixture\Dummy;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Force\ForceField;
use YardBreak\Core\Force\Pushes;
use YardBreak\Core\Stage\Kind\ForceKind;
use YardBreak\Core\Stage\Surfaces;

/** A force: the same pull along x everywhere. */
final readonly class Sideways implements ForceField, ForceKind
{
    private function __construct(private float $pull)
    {
    }

    public static function make(Settings $settings, Shot $shot, Surfaces $others): ForceField
    {
        return new self($settings->float('pull'));
    }

    public static function inputs(Settings $settings, Shot $shot, Surfaces $others): array
    {
        return [];
    }

    public function act(array $x, array $y, array $z, float $frame, float $seconds, Pushes $pushes): void
    {
        foreach ($pushes->ax as $i => $a) {
            $pushes->ax[$i] = $a + $this->pull;
        }
    }

    public function movesAir(): bool
    {
        return false;
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
