<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use WeakMap;

/**
 * A weight that follows another one in its own time: it may never fall back, come late, or swing past like a spring. It
 * remembers, frame by frame from the first on, so that it is the same whichever frame is asked for; between two frames the
 * other one is taken to change evenly. What springs may leave 0 to 1.
 */
final class Following implements WeightSource
{
    /** The frame at which it is as the other one is. */
    private const START = 1;

    /**
     * The last two whole frames, so that one may look back by one: the frame, what is followed, where it has got, how fast it goes.
     *
     * @var WeakMap<Samples, list<array{int, list<float>, list<float>, list<float>}>>
     */
    private WeakMap $known;

    /**
     * @param bool $keeps whether what has been reached stays
     * @param Response|null $response how it follows; null: at once
     * @param float $fps frames a second
     */
    public function __construct(private readonly WeightSource $of, private readonly bool $keeps, private readonly ?Response $response, private readonly float $fps)
    {
        $this->known = new WeakMap();
    }

    public function evaluate(Samples $at, float $frame): array
    {
        $whole = max(self::START, (int) floor($frame));
        $known = array_values(array_filter($this->known[$at] ?? [], static fn (array $state): bool => $state[0] <= $whole));
        if ($known === []) {
            $first = $this->of->evaluate($at, (float) self::START);
            $known = [[self::START, $first, $first, array_fill(0, count($first), 0.0)]];
        }
        $state = $known[count($known) - 1];
        for ($n = $state[0] + 1; $n <= $whole; $n++) {
            $known = [$state, $state = [$n, ...$this->step($state, $this->of->evaluate($at, (float) $n), 1.0)]];
        }
        if (($this->known[$at][0][0] ?? 0) < $state[0]) {
            $this->known[$at] = $known;
        }
        $share = $frame - $whole;

        return $share <= 0.0 ? $state[2] : $this->step($state, $this->of->evaluate($at, $frame), $share)[1];
    }

    /**
     * @param array{int, list<float>, list<float>, list<float>} $state
     * @param list<float> $next what is followed, at the end of the step
     * @param float $share of a frame
     *
     * @return array{list<float>, list<float>, list<float>}
     */
    private function step(array $state, array $next, float $share): array
    {
        [, $from, $value, $speed] = $state;
        if ($this->keeps) {
            foreach ($next as $k => $weight) {
                $next[$k] = $weight < $from[$k] ? $from[$k] : $weight;
            }
        }
        if ($this->response === null) {
            return [$next, $next, $speed];
        }
        [$a, $b, $c, $d, $e, $f] = $this->response->over($share / $this->fps);
        // As seen from the value that is followed, which moves evenly from one to the other.
        $values = $speeds = [];
        foreach ($next as $k => $to) {
            $was = $from[$k];
            $rate = ($to - $was) * $this->fps / $share;
            $off = $value[$k] - $was;
            $v = $speed[$k];
            $values[] = $was + $a * $off + $b * $v + $c * $rate;
            $speeds[] = $d * $off + $e * $v + $f * $rate;
        }

        return [$next, $values, $speeds];
    }

    /**
     * What it remembers of some places, to go on from elsewhere.
     *
     * @return string doubles
     */
    public function saved(Samples $at): string
    {
        $known = $this->known[$at] ?? [];
        [$frame, $from, $value, $speed] = $known === [] ? [0, [], [], []] : $known[count($known) - 1];

        return pack('Ve*', $frame, ...$from, ...$value, ...$speed);
    }

    public function restore(Samples $at, string $saved): void
    {
        /** @var array{frame: int} $head */
        $head = unpack('Vframe', $saved);
        /** @var array<int, float> $numbers */
        $numbers = unpack('e*', $saved, 4);
        $n = count($at->x);
        $numbers = array_values($numbers);
        if (count($numbers) === 3 * $n) {
            $this->known[$at] = [[$head['frame'], array_slice($numbers, 0, $n), array_slice($numbers, $n, $n), array_slice($numbers, 2 * $n)]];
        }
    }

    public function still(): array
    {
        return [$this->of->still(), $this->keeps, $this->response?->numbers(), $this->fps];
    }

    public function sample(float $frame): array
    {
        return $this->of->sample($frame);
    }
}
