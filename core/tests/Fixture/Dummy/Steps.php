<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Fixture\Dummy;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\WeightKind;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Weight\Samples;
use YardBreak\Core\Weight\WeightSource;

/** A weight: 1 everywhere from a frame on. */
final readonly class Steps implements WeightKind, WeightSource
{
    private function __construct(private float $at)
    {
    }

    public static function make(Settings $settings, Prop $prop, PropShape $shape): WeightSource
    {
        return new self($settings->float('at'));
    }

    public static function check(Settings $settings, Prop $prop): void
    {
    }

    public static function inputs(Settings $settings, Prop $prop, Surfaces $others): array
    {
        return [];
    }

    public function evaluate(Samples $at, float $frame): array
    {
        return array_fill(0, count($at->x), $frame >= $this->at ? 1.0 : 0.0);
    }

    public function still(): array
    {
        return [];
    }

    public function sample(float $frame): array
    {
        return [$frame >= $this->at ? 1.0 : 0.0];
    }
}
