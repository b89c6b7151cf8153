<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

use YardBreak\Core\Math\Animated;

/** In what light the shot is seen: three lights from afar, and what comes from all around. They change nothing of what moves. */
final readonly class Lights
{
    private const FROM_AFAR = ['sun', 'fill', 'rim'];

    /**
     * @param array<string, Light> $fromAfar by name
     * @param Animated $sky strength of what comes from above and below, as that of a light
     * @param string $skyColour sRGB, as #rrggbb
     */
    private function __construct(private array $fromAfar, private Animated $sky, public string $skyColour, public string $groundColour)
    {
    }

    /** @throws BadDocument */
    public static function read(Settings $settings): self
    {
        $lights = [];
        foreach (self::FROM_AFAR as $name) {
            $lights[$name] = Light::read($settings, $name);
        }

        return new self($lights, $settings->animated('sky'), $settings->string('skyColour'), $settings->string('groundColour'));
    }

    /** @return array<string, Light> by name, those from afar that are on at any of so many frames */
    public function on(int $frames): array
    {
        return array_filter($this->fromAfar, static fn (Light $light): bool => max(array_map($light->strengthAt(...), range(1, $frames))) > 0.0);
    }

    public function skyAt(float $frame): float
    {
        return $this->sky->at($frame);
    }
}
