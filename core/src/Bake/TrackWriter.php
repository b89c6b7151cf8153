<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

/**
 * Decides how each frame of a track is written: as in its base frame, whole, or by the parts that differ from the base. What has
 * come to rest since the base is written again with each frame; as soon as all that together has cost what writing the track
 * whole would have, it is written whole (about twice the bytes of the best choice known afterwards at most: the rule for
 * renting or buying skis).
 */
final class TrackWriter
{
    /** A track is written whole at least this often while it changes, so that its parts stay few, frames. */
    public const FRESH = 24;

    /** Parts are worth it while they take less than this share of the whole. */
    private const WORTH = 0.9;

    /** Frame in which it is whole; 0: none yet. */
    private int $base = 0;

    private string $before = '';

    /** @var list<string> the base by part */
    private array $parts = [];

    /** @var array<int, string> what differed from the base in the frame before, by part */
    private array $changed = [];

    /** Bytes of parts that were written again though nothing had happened to them, since the base. */
    private int $again = 0;

    /** @param int|null $size bytes of a part; null: it is always whole */
    public function __construct(private readonly ?int $size)
    {
    }

    /**
     * Frames have to come in order.
     *
     * @param string $bytes all parts
     *
     * @return array{int, int, string} mode, base frame, bytes to write
     */
    public function write(string $bytes, int $number): array
    {
        if ($this->base > 0 && ($bytes === $this->before || ($this->size !== null && $number - $this->base < self::FRESH))) {
            $changed = $this->compare($bytes);
            if ($changed === []) {
                return [FrameRecord::SAME, $this->base, ''];
            }
            $cost = count($changed) * (($this->size ?? 0) + 4) + 4;
            if ($cost < self::WORTH * strlen($bytes) && $this->again <= strlen($bytes) - $cost) {
                return [FrameRecord::PARTS, $this->base, pack('V*', count($changed), ...array_keys($changed)) . implode('', $changed)];
            }
        }
        $this->begin($bytes, $number);

        return [FrameRecord::WHOLE, $number, $bytes];
    }

    /**
     * Goes on behind frames that have been written.
     *
     * @param non-empty-array<int, string> $frames bytes of all parts by frame: the base, and those that were written behind it
     */
    public function resume(array $frames): void
    {
        $base = array_key_first($frames);
        $this->begin($frames[$base], $base);
        foreach ($frames as $bytes) {
            $this->compare($bytes);
        }
    }

    private function begin(string $bytes, int $number): void
    {
        [$this->base, $this->before, $this->changed, $this->again] = [$number, $bytes, [], 0];
        $this->parts = $this->split($bytes);
    }

    /** @return array<int, string> the parts that differ from the base */
    private function compare(string $bytes): array
    {
        /** @var array<int, string> $changed */
        $changed = $bytes === $this->before ? [] : array_diff_assoc($this->split($bytes), $this->parts);
        $this->again += ($this->size ?? 0) * count(array_intersect_assoc($changed, $this->changed));

        return $this->changed = $changed;
    }

    /** @return list<string> */
    private function split(string $bytes): array
    {
        return $this->size === null || $bytes === '' ? [] : str_split($bytes, max(1, $this->size));
    }
}
