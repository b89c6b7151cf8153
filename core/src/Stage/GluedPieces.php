<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Force\Pushes;
use YardBreak\Core\Motion\Rigid\Bonds;
use YardBreak\Core\Motion\State;

/** Which of a prop's pieces still hang together by its glue; without any, each goes by itself. */
final readonly class GluedPieces
{
    /**
     * @param Bonds|null $bonds null: nothing holds them together
     * @param list<float> $mass of each piece as it was broken, kg
     */
    public function __construct(private ?Bonds $bonds, private array $mass, private bool $byWeight, private PieceTiming $timing)
    {
    }

    public function isGlued(): bool
    {
        return $this->bonds !== null;
    }

    /** Whether a piece has come off others that it hung together with, or never did. */
    public function isCracked(int $piece): bool
    {
        return $this->bonds === null || $this->bonds->isCracked($piece);
    }

    /**
     * @param list<int> $pieces that part from all others
     *
     * @return list<list<int>> those together that hang together
     */
    public function parted(array $pieces): array
    {
        $this->bonds?->cut($pieces);

        return $this->parts($pieces);
    }

    /**
     * @param list<int> $pieces
     *
     * @return list<list<int>> those together that hang together, the largest part first
     */
    public function parts(array $pieces): array
    {
        return $this->bonds?->parts($pieces) ?? array_map(static fn (int $k): array => [$k], $pieces);
    }

    /** @return float|null share of a blow (N) that gets through what breaks; null: nothing does */
    public function strike(int $piece, float $force, float $frame): ?float
    {
        return $this->bonds?->strike($piece, $force, $this->mass, $this->strong($frame));
    }

    /**
     * Tears off pieces of one body that are pushed otherwise than the whole by more than their glue holds.
     *
     * @param list<int> $pieces
     * @param Pushes $pushes what acts on each of them
     *
     * @return bool whether any came off
     */
    public function tear(array $pieces, Pushes $pushes, float $frame): bool
    {
        $sum = [0.0, 0.0, 0.0];
        $all = 0.0;
        foreach ($pieces as $n => $piece) {
            $m = $this->mass[$piece];
            $all += $m;
            $sum = [$sum[0] + $m * $pushes->ax[$n], $sum[1] + $m * $pushes->ay[$n], $sum[2] + $m * $pushes->az[$n]];
        }
        $forces = [];
        foreach ($pieces as $n => $piece) {
            [$x, $y, $z] = [$pushes->ax[$n] - $sum[0] / $all, $pushes->ay[$n] - $sum[1] / $all, $pushes->az[$n] - $sum[2] / $all];
            // As a blow would be that leaves so much to the others.
            $forces[$piece] = $this->mass[$piece] * sqrt($x * $x + $y * $y + $z * $z) / (1.0 - $this->mass[$piece] / $all);
        }
        arsort($forces);
        $torn = false;
        foreach ($forces as $piece => $force) {
            $torn = $this->strike($piece, $force, $frame) !== null || $torn;
        }

        return $torn;
    }

    /**
     * Breaks what does not carry the weight and the motion of what sticks out: {@see Bonds::bend()}.
     *
     * @param list<int> $pieces of one body
     * @param array<int, array{float, float, float}> $at
     * @param array<int, true> $touched
     * @param array{float, float, float} $acceleration
     * @param array{float, float, float} $turning
     * @param array{float, float, float} $spin
     * @param list<array{int, array{float, float, float}, array{float, float, float}}>|null $presses
     */
    public function bend(array $pieces, array $at, array $touched, array $acceleration, array $turning, array $spin, ?array $presses, float $frame): bool
    {
        return $this->bonds !== null && $this->bonds->bend($pieces, $at, $this->mass, $touched, $acceleration, $turning, $spin, $this->strong($frame), $presses);
    }

    /** Whether glue grows weaker, or stronger again, from a frame to another. */
    public function changes(float $from, float $to): bool
    {
        return $this->byWeight && $this->bonds !== null && $this->timing->felt($from) !== $this->timing->felt($to);
    }

    /** Breaks what the weight has eaten up; whether there was any. */
    public function weaken(float $frame): bool
    {
        return $this->byWeight && $this->bonds !== null && $this->bonds->weaken($this->strong($frame));
    }

    /** @return list<float> share of its strength that each piece's glue has */
    private function strong(float $frame): array
    {
        return $this->byWeight ? array_map(static fn (float $weight): float => 1.0 - $weight, $this->timing->felt($frame)) : array_fill(0, count($this->mass), 1.0);
    }

    /** @param list<int> $pieces */
    public function mass(array $pieces): float
    {
        return array_sum(array_map(fn (int $piece): float => $this->mass[$piece], $pieces));
    }

    /** @return list<bool> */
    public function save(): array
    {
        return $this->bonds?->save() ?? [];
    }

    public function restore(State $saved, string $name): void
    {
        $this->bonds?->restore($saved, $name);
    }
}
