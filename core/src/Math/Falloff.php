<?php

declare(strict_types=1);

namespace YardBreak\Core\Math;

use LogicException;

/** A soft edge: how it goes from nothing (0) to full (1). */
final readonly class Falloff
{
    /** @param Curve|null $curve as it was drawn */
    private function __construct(private string $edge, private ?Curve $curve = null)
    {
    }

    /** @param string $edge linear, smooth (level at both ends), sharp (level where it is nothing), round (level where it is full) */
    public static function of(string $edge): self
    {
        return in_array($edge, ['linear', 'smooth', 'sharp', 'round'], true) ? new self($edge) : throw new LogicException("There is no edge “{$edge}”.");
    }

    /** @param Curve $curve from 0, where there is nothing, to 1, where it is full; how much there is */
    public static function drawn(Curve $curve): self
    {
        return new self('drawn', $curve);
    }

    /** @param float $share 0 to 1 */
    public function at(float $share): float
    {
        return match ($this->edge) {
            'linear' => $share,
            'smooth' => $share * $share * (3.0 - 2.0 * $share),
            'sharp' => $share * $share,
            'round' => $share * (2.0 - $share),
            default => $this->curve === null ? $share : $this->curve->at($share),
        };
    }

    /** @return list<mixed> what decides it */
    public function inputs(): array
    {
        return [$this->edge, ...$this->curve === null ? [] : $this->curve->points];
    }
}
