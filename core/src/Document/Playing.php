<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

use YardBreak\Core\Math\Animated;

/** Which moment of the motion each frame of a shot shows: as it happens, backwards, or by keys (slower, faster, to and fro). */
final readonly class Playing
{
    private const FORWARD = 'forward';

    private const BACKWARDS = 'backwards';

    private function __construct(private string $how, private Animated $shows, private int $frames)
    {
    }

    /** @throws BadDocument */
    public static function read(Settings $settings): self
    {
        return new self($settings->string('plays'), $settings->animated('shows'), $settings->int('frames'));
    }

    public function isPlain(): bool
    {
        return $this->how === self::FORWARD;
    }

    /** The frame of the motion that a frame shows; may lie between two. */
    public function at(int $frame): float
    {
        return match ($this->how) {
            self::FORWARD => (float) $frame,
            self::BACKWARDS => (float) ($this->frames + 1 - $frame),
            default => max(1.0, min((float) $this->frames, $this->shows->at((float) $frame))),
        };
    }

    /** @return list<float> what it shows at each frame; none: it is as it happens */
    public function inputs(): array
    {
        return $this->isPlain() ? [] : array_map($this->at(...), range(1, $this->frames));
    }
}
