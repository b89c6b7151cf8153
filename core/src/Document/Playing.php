<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

use YardBreak\Core\Math\Animated;

/**
 * Which moment of the motion each frame of a shot shows: as it happens, backwards, or by keys (slower, faster, to and fro). A
 * prop may have a time of its own.
 */
final readonly class Playing
{
    private const FORWARD = 'forward';

    private const BACKWARDS = 'backwards';

    /** @param array<string, self> $own of props with a time of their own, by id */
    private function __construct(private string $how, private Animated $shows, private int $frames, private array $own = [])
    {
    }

    /**
     * @param list<Settings> $props of the shot
     *
     * @throws BadDocument
     */
    public static function read(Settings $settings, array $props): self
    {
        $frames = $settings->int('frames');
        $own = [];
        foreach ($props as $prop) {
            if ($prop->string('plays') !== 'shot' && $prop->bool('on')) {
                $own[$prop->string('id')] = new self($prop->string('plays'), $prop->animated('shows'), $frames);
            }
        }

        return new self($settings->string('plays'), $settings->animated('shows'), $frames, $own);
    }

    public function isPlain(): bool
    {
        return $this->how === self::FORWARD && array_filter($this->own, static fn (self $own): bool => ! $own->isPlain()) === [];
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

    /** The same for a prop, or whatever else has frames. */
    public function of(string $id, int $frame): float
    {
        return ($this->own[$id] ?? $this)->at($frame);
    }

    /** @return list<mixed> what it shows at each frame; none: it is as it happens */
    public function inputs(): array
    {
        if ($this->isPlain()) {
            return [];
        }
        $shown = array_map($this->at(...), range(1, $this->frames));

        return $this->own === [] ? $shown : [...$shown, array_map(fn (self $own): array => array_map($own->at(...), range(1, $this->frames)), $this->own)];
    }
}
