<?php

declare(strict_types=1);

namespace YardBreak\Core\Math;

use Random\Engine\Xoshiro256StarStar;

/**
 * A stream of random numbers that depends on nothing but its three names, so the same document gives the same break on
 * every machine, and asking for more numbers for one purpose never shifts those of another.
 */
final class RandomStream
{
    private const TWO_TO_MINUS_53 = 1.0 / 9007199254740992.0;

    private function __construct(private readonly Xoshiro256StarStar $engine)
    {
    }

    public static function named(int $seed, string $purpose, int $index = 0): self
    {
        return new self(new Xoshiro256StarStar(hash('sha256', "{$seed}/{$purpose}/{$index}", true)));
    }

    /** Uniform in [0, 1), 53 random bits. */
    public function float(): float
    {
        /** @var array{1: int} $words */
        $words = unpack('P', $this->engine->generate());

        return (($words[1] >> 11) & 0x1FFFFFFFFFFFFF) * self::TWO_TO_MINUS_53;
    }

    public function between(float $low, float $high): float
    {
        return $low + ($high - $low) * $this->float();
    }

    /**
     * Uniform on the unit sphere (Archimedes: height is uniform).
     *
     * @return array{float, float, float}
     */
    public function direction(): array
    {
        $z = $this->between(-1.0, 1.0);
        $turn = 2.0 * M_PI * $this->float();
        $r = sqrt(1.0 - $z * $z);

        return [$r * cos($turn), $r * sin($turn), $z];
    }
}
