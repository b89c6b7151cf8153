<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

/** Eddies that turn into others, and back, as time goes by. */
final class ChangingEddies
{
    /** At so many places and fewer both are asked there, which takes less time than mixing them everywhere. */
    private const FEW = 500;

    /** @var array{Eddies, Eddies}|null */
    private ?array $both = null;

    /** @var array{float, Eddies}|null frame, and what they are then */
    private ?array $mixed = null;

    /**
     * @param string $purpose the same seed for another purpose gives other eddies
     * @param int $period frames until they have turned into others; 0: they stay as they are
     */
    public function __construct(private readonly int $seed, private readonly string $purpose, private readonly int $period)
    {
    }

    /**
     * Adds the field at many places, as {@see Eddies::add()} does.
     *
     * @param list<float> $x m
     * @param list<float> $y
     * @param list<float> $z
     * @param float $strength what it is times
     * @param float $size of an eddy, m
     * @param array<int, float> $u
     * @param array<int, float> $v
     * @param array<int, float> $w
     */
    public function add(array $x, array $y, array $z, float $frame, float $strength, float $size, array &$u, array &$v, array &$w): void
    {
        [$a, $b] = $this->both ??= [Eddies::seeded($this->seed, $this->purpose), Eddies::seeded($this->seed, "other {$this->purpose}")];
        if ($this->period === 0) {
            $a->add($x, $y, $z, $strength, $size, $u, $v, $w);

            return;
        }
        // The mean speed stays the same: the first at turn 0, the second at a quarter, the first the other way round at a half.
        $turn = 2.0 * M_PI * $frame / (4.0 * $this->period);
        if (count($x) <= self::FEW) {
            $a->add($x, $y, $z, cos($turn) * $strength, $size, $u, $v, $w);
            $b->add($x, $y, $z, sin($turn) * $strength, $size, $u, $v, $w);

            return;
        }
        if ($this->mixed === null || $this->mixed[0] !== $frame) {
            $this->mixed = [$frame, Eddies::mixed($a, cos($turn), $b, sin($turn))];
        }
        $this->mixed[1]->add($x, $y, $z, $strength, $size, $u, $v, $w);
    }
}
