<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Fixture\Dummy;

use YardBreak\Core\Break\Progress;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\FoundFrame;
use YardBreak\Core\Stage\Kind\MomentKind;
use YardBreak\Core\Stage\Stage;
use YardBreak\Core\Stage\Surfaces;

/** So many frames before the end of the shot. */
final class AfterSoMany implements MomentKind
{
    public static function find(Settings $settings, Shot $shot, Surfaces $surfaces): Stage
    {
        /** @implements Stage<float> */
        return new class ($shot->frames - $settings->float('before')) implements Stage {
            use FoundFrame;

            public function __construct(private readonly float $frame)
            {
            }

            public function name(): string
            {
                return 'so-many';
            }

            public function version(): int
            {
                return 1;
            }

            public function inputs(): array
            {
                return [$this->frame];
            }

            public function run(Progress $progress): float
            {
                return $this->frame;
            }
        };
    }

    public static function lacks(Settings $settings, Shot $shot): ?string
    {
        return null;
    }
}
