<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Math\Quaternion;

/** What an animation of a glTF document moves over time: a few numbers at keys, with a way from one to the next (glTF 2.0, appendix C). */
final readonly class GlbChannel
{
    /** How many numbers each path of a node has; weights have one a target. */
    public const WIDTHS = ['translation' => 3, 'rotation' => 4, 'scale' => 3];

    /**
     * @param non-empty-list<float> $times s, each later than the one before
     * @param list<float> $values so many a key; of a spline three times as many: in-tangent, value, out-tangent
     */
    private function __construct(private array $times, private array $values, private int $width, private string $way, private bool $turns)
    {
    }

    /**
     * @param array<mixed> $sampler
     * @param int $width numbers at a time
     * @param bool $turns whether they are a rotation
     *
     * @throws BadFile
     */
    public static function read(GlbFile $file, array $sampler, int $width, bool $turns): self
    {
        $way = GlbFile::text($sampler, 'interpolation');
        $times = $file->accessor(GlbFile::int($sampler, 'input', -1), 1);
        $output = GlbFile::int($sampler, 'output', -1);
        // Weights are told one by one, the others as vectors.
        $values = $file->accessor($output, GlbFile::text($file->entry('accessors', $output), 'type') === 'SCALAR' ? 1 : $width);
        if ($times === [] || count($values) !== count($times) * $width * ($way === 'CUBICSPLINE' ? 3 : 1)) {
            throw new BadFile('An animation has ' . count($times) . ' keys, but not as many values. Export the scene again.');
        }
        foreach ($times as $k => $time) {
            if ($k > 0 && $time <= $times[$k - 1]) {
                throw new BadFile('The keys of an animation are not in order (key ' . ($k + 1) . '). Export the scene again.');
            }
        }
        foreach ([...$times, ...$values] as $number) {
            if (! is_finite($number)) {
                throw new BadFile('A key of an animation is no number. Export the scene again.');
            }
        }

        return new self($times, $values, $width, $way, $turns);
    }

    public function begins(): float
    {
        return $this->times[0];
    }

    public function ends(): float
    {
        return $this->times[count($this->times) - 1];
    }

    /** @return list<float> before the first key and after the last what they say */
    public function at(float $seconds): array
    {
        $low = 0;
        $high = count($this->times) - 1;
        if ($seconds <= $this->times[0] || $high === 0) {
            return $this->key(0);
        }
        if ($seconds >= $this->times[$high]) {
            return $this->key($high);
        }
        while ($high - $low > 1) {
            $middle = ($low + $high) >> 1;
            $this->times[$middle] <= $seconds ? $low = $middle : $high = $middle;
        }
        $span = $this->times[$high] - $this->times[$low];
        $share = ($seconds - $this->times[$low]) / $span;
        [$from, $to] = [$this->key($low), $this->key($high)];

        return match ($this->way) {
            'STEP' => $from,
            'CUBICSPLINE' => $this->whole($this->spline($low, $from, $to, $span, $share)),
            default => $this->turns ? self::turned($from, $to, $share) : array_map(static fn (float $a, float $b): float => $a + ($b - $a) * $share, $from, $to),
        };
    }

    /** @return list<float> */
    private function key(int $k): array
    {
        return array_slice($this->values, $this->way === 'CUBICSPLINE' ? (3 * $k + 1) * $this->width : $k * $this->width, $this->width);
    }

    /**
     * @param list<float> $from
     * @param list<float> $to
     *
     * @return list<float>
     */
    private function spline(int $k, array $from, array $to, float $span, float $t): array
    {
        $values = [];
        foreach ($from as $n => $a) {
            $out = $span * $this->values[(3 * $k + 2) * $this->width + $n];
            $in = $span * $this->values[3 * ($k + 1) * $this->width + $n];
            $values[] = (2.0 * $t ** 3 - 3.0 * $t ** 2 + 1.0) * $a + ($t ** 3 - 2.0 * $t ** 2 + $t) * $out + (-2.0 * $t ** 3 + 3.0 * $t ** 2) * $to[$n] + ($t ** 3 - $t ** 2) * $in;
        }

        return $values;
    }

    /**
     * @param list<float> $values
     *
     * @return list<float> a rotation again, where they are one
     */
    private function whole(array $values): array
    {
        return $this->turns ? self::unit($values) : $values;
    }

    /**
     * Evenly along the shorter way.
     *
     * @param list<float> $from
     * @param list<float> $to
     *
     * @return list<float>
     */
    private static function turned(array $from, array $to, float $share): array
    {
        $dot = $from[0] * $to[0] + $from[1] * $to[1] + $from[2] * $to[2] + $from[3] * $to[3];
        $angle = acos(min(1.0, abs($dot)));
        $sine = sin($angle);
        [$a, $b] = $sine < 1e-6 ? [1.0 - $share, $share] : [sin((1.0 - $share) * $angle) / $sine, sin($share * $angle) / $sine];
        $b = $dot < 0.0 ? -$b : $b;

        return self::unit([$a * $from[0] + $b * $to[0], $a * $from[1] + $b * $to[1], $a * $from[2] + $b * $to[2], $a * $from[3] + $b * $to[3]]);
    }

    /**
     * @param list<float> $q
     *
     * @return list<float> none where it says nothing
     */
    private static function unit(array $q): array
    {
        return abs($q[0]) + abs($q[1]) + abs($q[2]) + abs($q[3]) < 1e-12 ? Quaternion::IDENTITY : Quaternion::normalized([$q[0], $q[1], $q[2], $q[3]]);
    }
}
