<?php

declare(strict_types=1);

namespace YardBreak\Core\Math;

/**
 * An exact real number: a sum of doubles that do not overlap, smallest first (Shewchuk 1997, "Adaptive Precision
 * Floating-Point Arithmetic and Fast Robust Geometric Predicates"). Sums, differences and products lose nothing as long
 * as no exponent overflows or underflows. Slow; meant for the few decisions that doubles cannot make.
 */
final readonly class Expansion
{
    /** 2^27 + 1: splits a double into two halves of 26 bits (Dekker 1971). */
    private const SPLITTER = 134217729.0;

    /** @param list<float> $parts non-overlapping, increasing magnitude, no zeros */
    private function __construct(private array $parts)
    {
    }

    public static function of(float $value): self
    {
        return new self($value === 0.0 ? [] : [$value]);
    }

    /** The exact difference of two doubles. */
    public static function difference(float $a, float $b): self
    {
        return self::of($a)->minus(self::of($b));
    }

    public function plus(self $other): self
    {
        $sum = $this->parts;
        foreach ($other->parts as $part) {
            $sum = self::grow($sum, $part);
        }

        return new self($sum);
    }

    public function minus(self $other): self
    {
        return $this->plus($other->negated());
    }

    public function negated(): self
    {
        return new self(array_map(static fn (float $part): float => -$part, $this->parts));
    }

    public function times(self $other): self
    {
        $sum = [];
        foreach ($this->parts as $a) {
            foreach ($other->parts as $b) {
                $high = $a * $b;
                $t = self::SPLITTER * $a;
                $ah = $t - ($t - $a);
                $al = $a - $ah;
                $t = self::SPLITTER * $b;
                $bh = $t - ($t - $b);
                $bl = $b - $bh;
                $low = (($ah * $bh - $high) + $ah * $bl + $al * $bh) + $al * $bl;
                $sum = self::grow(self::grow($sum, $low), $high);
            }
        }

        return new self($sum);
    }

    /** -1, 0 or 1, exactly. */
    public function sign(): int
    {
        // The largest part outweighs the sum of all others.
        return $this->parts === [] ? 0 : ($this->parts[count($this->parts) - 1] <=> 0.0);
    }

    public function toFloat(): float
    {
        return array_sum($this->parts) + 0.0;
    }

    /**
     * Determinant by cofactors.
     *
     * @param list<list<self>> $rows square, at least 1x1
     */
    public static function determinant(array $rows): self
    {
        $n = count($rows);
        if ($n === 1) {
            return $rows[0][0];
        }
        $sum = self::of(0.0);
        foreach ($rows[0] as $column => $factor) {
            if ($factor->parts === []) {
                continue;
            }
            $minor = [];
            for ($row = 1; $row < $n; $row++) {
                $rest = $rows[$row];
                array_splice($rest, $column, 1);
                $minor[] = $rest;
            }
            $term = $factor->times(self::determinant($minor));
            $sum = $column % 2 === 0 ? $sum->plus($term) : $sum->minus($term);
        }

        return $sum;
    }

    /**
     * @param list<float> $parts
     *
     * @return list<float>
     */
    private static function grow(array $parts, float $add): array
    {
        $grown = [];
        $carry = $add;
        foreach ($parts as $part) {
            $sum = $carry + $part;
            $virtual = $sum - $carry;
            $error = ($carry - ($sum - $virtual)) + ($part - $virtual);
            if ($error !== 0.0) {
                $grown[] = $error;
            }
            $carry = $sum;
        }
        if ($carry !== 0.0) {
            $grown[] = $carry;
        }

        return $grown;
    }
}
