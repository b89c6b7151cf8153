<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use LogicException;

/** One frame of a bake: the values of every track, and the readout. */
final readonly class Frame
{
    /** Flag of a piece that has let go. */
    public const RELEASED = 1;

    /** Flag of a piece that lies still. */
    public const ASLEEP = 2;

    /**
     * Names of the readout's numbers: pieces that have let go so far, pieces that move faster than the settle speed, energy of all in J; of what waits for a
     * touch, the hardest one since the frame before, in m/s and in N s.
     */
    public const READOUT = ['released', 'moving', 'kinetic', 'speed', 'impulse'];

    /** Those of which the largest counts, and not the sum. */
    private const LARGEST = ['speed', 'impulse'];

    /**
     * @param list<Track> $tracks
     * @param list<array<int, float|int>> $values of each track; how many numbers a part has, the track's kind says
     * @param array<string, float> $readout by name
     */
    public function __construct(public int $number, public array $tracks, public array $values, public array $readout)
    {
    }

    /**
     * @param list<array<string, float>> $readouts of all that moves, by name
     *
     * @return array<string, float>
     */
    public static function together(array $readouts): array
    {
        $together = [];
        foreach ($readouts as $readout) {
            foreach ($readout as $name => $number) {
                $before = $together[$name] ?? 0.0;
                $together[$name] = in_array($name, self::LARGEST, true) ? max($before, $number) : $before + $number;
            }
        }

        return $together;
    }

    /** @return array<int, float|int> */
    public function of(string $prop, string $kind): array
    {
        return $this->find($prop, $kind) ?? throw new LogicException("There is no {$kind} of “{$prop}”.");
    }

    /** @return array<int, float|int>|null null: its mover does not write such a track */
    public function find(string $prop, string $kind): ?array
    {
        foreach ($this->tracks as $k => $track) {
            if ($track->prop === $prop && $track->kind === $kind) {
                return $this->values[$k];
            }
        }

        return null;
    }

    /** @return list<float|int> the values of a kind of all props, one after the other */
    public function all(string $kind): array
    {
        $all = [];
        foreach ($this->tracks as $k => $track) {
            if ($track->kind === $kind) {
                array_push($all, ...$this->values[$k]);
            }
        }

        return $all;
    }

    /** @return list<float|int> seven numbers a piece, over all props */
    public function poses(): array
    {
        return $this->all(Track::POSE);
    }

    /** @return list<float|int> */
    public function flags(): array
    {
        return $this->all(Track::FLAGS);
    }

    public function released(): int
    {
        return (int) ($this->readout['released'] ?? 0);
    }

    public function moving(): int
    {
        return (int) ($this->readout['moving'] ?? 0);
    }

    public function kinetic(): float
    {
        return $this->readout['kinetic'] ?? 0.0;
    }
}
