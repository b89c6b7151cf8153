<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

use YardBreak\Core\Motion\State;

/**
 * What holds the pieces of a prop together: each bond joins two of them and holds a force. A blow on one piece must be passed on
 * to the others through the bonds around it; where it is too much for all that go round the blow together, they break.
 */
final class Bonds
{
    /** @var list<list<int>> numbers of the bonds of each piece */
    private array $of;

    /** @var array<int, bool> */
    private array $whole;

    /**
     * @param int $pieces how many there are
     * @param list<array{int, int, float, float}> $bonds two pieces, the force that it holds, N, and its area, m2
     */
    public function __construct(int $pieces, private readonly array $bonds)
    {
        $of = array_fill(0, $pieces, []);
        foreach ($bonds as $k => [$a, $b]) {
            $of[$a][] = $k;
            $of[$b][] = $k;
        }
        $this->of = $of;
        $this->whole = array_fill(0, count($bonds), true);
    }

    public function isEmpty(): bool
    {
        return $this->bonds === [];
    }

    /** Whether a piece has lost a bond, or never had one. */
    public function isCracked(int $piece): bool
    {
        foreach ($this->of[$piece] as $k) {
            if (! $this->whole[$k]) {
                return true;
            }
        }

        return $this->of[$piece] === [];
    }

    /**
     * Breaks what joins some pieces to all others.
     *
     * @param list<int> $pieces
     */
    public function cut(array $pieces): void
    {
        $within = array_fill_keys($pieces, true);
        foreach ($pieces as $piece) {
            foreach ($this->of[$piece] as $k) {
                [$a, $b] = $this->bonds[$k];
                if (! isset($within[$a], $within[$b])) {
                    $this->whole[$k] = false;
                }
            }
        }
    }

    /**
     * Breaks the bonds that hold nothing any more.
     *
     * @param list<float> $strong share of its strength that each piece's bonds still have
     *
     * @return bool whether there were any
     */
    public function weaken(array $strong): bool
    {
        $some = false;
        foreach ($this->bonds as $k => [$a, $b]) {
            if ($this->whole[$k] && min($strong[$a], $strong[$b]) <= 0.0) {
                $this->whole[$k] = false;
                $some = true;
            }
        }

        return $some;
    }

    /**
     * Some pieces, those together that hang together.
     *
     * @phpstan-impure
     *
     * @param list<int> $pieces
     *
     * @return list<list<int>> the largest first
     */
    public function parts(array $pieces): array
    {
        $left = array_fill_keys($pieces, true);
        $parts = [];
        foreach ($pieces as $start) {
            if (! isset($left[$start])) {
                continue;
            }
            unset($left[$start]);
            $part = [$start];
            for ($n = 0; $n < count($part); $n++) {
                foreach ($this->of[$part[$n]] as $k) {
                    [$a, $b] = $this->bonds[$k];
                    $other = $a === $part[$n] ? $b : $a;
                    if ($this->whole[$k] && isset($left[$other])) {
                        unset($left[$other]);
                        $part[] = $other;
                    }
                }
            }
            sort($part);
            $parts[] = $part;
        }
        usort($parts, static fn (array $a, array $b): int => count($b) <=> count($a) ?: $a[0] <=> $b[0]);

        return $parts;
    }

    /**
     * A blow on a piece. Round it lie shells of pieces, so many bonds away; what is beyond a shell needs its share of the force, by its mass.
     * Where a shell's bonds do not hold that, it and all within it comes apart.
     *
     * @param float $force N
     * @param list<float> $mass of each piece, kg
     * @param list<float> $strong share of its strength that each piece's bonds still have
     *
     * @return float|null share of the force that still got to what is beyond; null: everything held
     */
    public function strike(int $piece, float $force, array $mass, array $strong): ?float
    {
        $shells = [[$piece]];
        $shell = [$piece => 0];
        $all = 0.0;
        for ($n = 0; isset($shells[$n]); $n++) {
            foreach ($shells[$n] as $at) {
                $all += $mass[$at];
                foreach ($this->of[$at] as $k) {
                    [$a, $b] = $this->bonds[$k];
                    $other = $a === $at ? $b : $a;
                    if ($this->whole[$k] && ! isset($shell[$other])) {
                        $shell[$other] = $n + 1;
                        $shells[$n + 1][] = $other;
                    }
                }
            }
        }
        $within = 0.0;
        $outermost = null;
        $share = 0.0;
        for ($n = 0; $n < count($shells) - 1; $n++) {
            $holds = 0.0;
            foreach ($shells[$n] as $at) {
                $within += $mass[$at];
                foreach ($this->of[$at] as $k) {
                    [$a, $b, $strength] = $this->bonds[$k];
                    $other = $a === $at ? $b : $a;
                    if ($this->whole[$k] && $shell[$other] === $n + 1) {
                        $holds += $strength * min($strong[$a], $strong[$b]);
                    }
                }
            }
            $needs = $force * (1.0 - $within / $all);
            if ($needs > $holds) {
                $outermost = $n;
                $share = $holds / $needs;
            }
        }
        if ($outermost === null) {
            return null;
        }
        for ($n = 0; $n <= $outermost; $n++) {
            foreach ($shells[$n] as $at) {
                foreach ($this->of[$at] as $k) {
                    $this->whole[$k] = false;
                }
            }
        }

        return $share;
    }

    /**
     * Breaks what does not carry the weight and the motion of what sticks out: {@see Leverage::breaks()}.
     *
     * @param list<int> $pieces of one body
     * @param array<int, array{float, float, float}> $at
     * @param list<float> $mass of each piece, kg
     * @param array<int, true> $touched
     * @param array{float, float, float} $acceleration
     * @param array{float, float, float} $turning
     * @param array{float, float, float} $spin
     * @param list<float> $strong share of its strength that each piece's bonds still have
     * @param list<array{int, array{float, float, float}, array{float, float, float}}>|null $presses
     *
     * @return bool whether any broke
     */
    public function bend(array $pieces, array $at, array $mass, array $touched, array $acceleration, array $turning, array $spin, array $strong, ?array $presses): bool
    {
        $within = array_fill_keys($pieces, true);
        $bonds = [];
        foreach ($this->bonds as $k => [$a, $b, $strength, $area]) {
            if ($this->whole[$k] && isset($within[$a], $within[$b])) {
                $bonds[] = [$k, $a, $b, $area, $strength * min($strong[$a], $strong[$b]), $area];
            }
        }
        $breaks = Leverage::breaks($pieces, $at, $mass, $touched, $acceleration, $turning, $spin, $bonds, $presses);
        foreach ($breaks as $k) {
            $this->whole[$k] = false;
        }

        return $breaks !== [];
    }

    /** @return list<bool> which of them hold */
    public function save(): array
    {
        return array_values($this->whole);
    }

    public function restore(State $saved, string $name): void
    {
        $this->whole = $saved->bools($name);
    }
}
