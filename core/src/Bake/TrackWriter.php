<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

/**
 * Decides how each frame of a track is written: not at all, whole, or by the parts that differ from a base. There are two bases: a
 * frame in which the track is whole, and a later one that is written by what differs from that one. What has come to rest since a
 * base is written again with each frame; as soon as that has cost half of what a new base would, there is a new one (close to the
 * best choice known afterwards: the rule for renting or buying skis).
 */
final class TrackWriter
{
    /** While it changes, a track is written whole at least this often, so that its parts stay few, frames. */
    private const FRESH = 96;

    /** Parts are worth it while they take less than this share of the whole. */
    private const WORTH = 0.9;

    /** Share of what a new base costs that may have been paid for what rests. */
    private const PAID = 0.5;

    /** Frame in which it is whole; 0: none yet. */
    private int $whole = 0;

    /** @var list<string> by part, in that frame */
    private array $wholeParts = [];

    /** The later base; the same one if there is none. */
    private int $later = 0;

    /** @var list<string> */
    private array $laterParts = [];

    private string $before = '';

    /** @var list<string> of the frame before */
    private array $beforeParts = [];

    /** Bytes of parts that were written again though nothing had happened to them, since the base that is whole, in later bases. */
    private int $againWhole = 0;

    /** The same since the later base, in all frames. */
    private int $againLater = 0;

    /** @param int|null $size bytes of a part; null: it is always whole */
    public function __construct(private readonly ?int $size)
    {
    }

    /**
     * Frames have to come in order. What is written follows from the frames since the last that is whole.
     *
     * @param string $bytes all parts
     *
     * @return array{int, int, string} mode, base frame, bytes to write
     */
    public function write(string $bytes, int $number): array
    {
        $rests = $this->whole > 0 && $bytes === $this->before;
        if ($this->size === null || $this->whole === 0) {
            return $rests ? [FrameRecord::SAME, $this->whole, ''] : $this->begin($bytes, $number);
        }
        $parts = $rests ? $this->beforeParts : $this->split($bytes);
        $moved = $rests ? 0 : count(array_diff_assoc($parts, $this->beforeParts));
        [$this->before, $this->beforeParts] = [$bytes, $parts];
        $changed = array_diff_assoc($parts, $this->laterParts);
        if ($changed === []) {
            return [FrameRecord::SAME, $this->later, ''];
        }

        return $rests || $number - $this->whole < self::FRESH ? $this->byParts($bytes, $number, $changed, $moved) : $this->begin($bytes, $number);
    }

    /**
     * @param non-empty-array<int, string> $changed what differs from the later base
     * @param int $moved how many parts differ from the frame before
     *
     * @return array{int, int, string}
     */
    private function byParts(string $bytes, int $number, array $changed, int $moved): array
    {
        $whole = strlen($bytes);
        $sinceWhole = $this->later === $this->whole ? $changed : array_diff_assoc($this->beforeParts, $this->wholeParts);
        [$cost, $anew] = [$this->cost($changed), $this->cost($sinceWhole)];
        $this->againLater += $this->atRest($changed, $moved);
        if ($cost < self::WORTH * $whole && $this->againLater <= self::PAID * (min($anew, $whole) - $cost)) {
            return [FrameRecord::PARTS, $this->later, ChangedParts::encode($changed)];
        }
        $this->againWhole += $this->atRest($sinceWhole, $moved);
        if ($anew < self::WORTH * $whole && $this->againWhole <= self::PAID * $whole) {
            [$this->later, $this->laterParts, $this->againLater] = [$number, $this->beforeParts, 0];

            return [FrameRecord::PARTS, $this->whole, ChangedParts::encode($sinceWhole)];
        }

        return $this->begin($bytes, $number);
    }

    /** @return array{int, int, string} */
    private function begin(string $bytes, int $number): array
    {
        $parts = $this->split($bytes);
        [$this->whole, $this->wholeParts, $this->againWhole] = [$number, $parts, 0];
        [$this->later, $this->laterParts, $this->againLater] = [$number, $parts, 0];
        [$this->before, $this->beforeParts] = [$bytes, $parts];

        return [FrameRecord::WHOLE, $number, $bytes];
    }

    /**
     * Bytes that parts take, with their numbers.
     *
     * @param array<int, string> $parts
     */
    private function cost(array $parts): int
    {
        return 4 + count($parts) * (1 + (int) $this->size);
    }

    /**
     * Bytes of parts to which nothing happened in this frame.
     *
     * @param array<int, string> $parts
     */
    private function atRest(array $parts, int $moved): int
    {
        return (int) $this->size * max(0, count($parts) - $moved);
    }

    /** @return list<string> */
    private function split(string $bytes): array
    {
        return $this->size === null || $bytes === '' ? [] : str_split($bytes, max(1, $this->size));
    }
}
