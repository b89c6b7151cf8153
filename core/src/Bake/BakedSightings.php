<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Bake\Codec\Codecs;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Sightings;

/**
 * What was seen in a bake, also while it is being written: as its file has it, to the bit, so that a bake which goes on after a
 * crash, and a weight that is shown afterwards, see the same.
 */
final class BakedSightings implements Sightings
{
    /** Frames that are kept as they came; older ones are read. */
    private const RECENT = 3;

    /** Values kept as they were read: who looks back does so frame by frame. */
    private const KEPT = 64;

    /** @var array<int, Frame> by number */
    private array $recent = [];

    /** @var array<string, array<int, float|int>|null> by prop, kind and frame */
    private array $known = [];

    private ?BakeReader $reader = null;

    private function __construct(private readonly string $path, private int $last, private readonly string $name)
    {
    }

    /** Of a bake that is about to be written. */
    public static function toBe(string $path): self
    {
        return new self($path, 0, '');
    }

    /**
     * Of one that is there, as far as it has got.
     *
     * @throws BadBake
     */
    public static function in(string $path): self
    {
        $reader = BakeReader::open($path);
        $seen = new self($path, $reader->frames(), $reader->manifest->hash . ' ' . $reader->frames());
        $seen->reader = $reader;

        return $seen;
    }

    public function last(): int
    {
        return $this->last;
    }

    public function note(Frame $frame): void
    {
        $this->known = $this->last === $frame->number ? [] : $this->known;
        $this->last = $frame->number;
        $this->recent[$frame->number] = $frame;
        unset($this->recent[$frame->number - self::RECENT]);
    }

    public function resume(int $frame): void
    {
        $this->last = $frame;
    }

    public function of(string $prop, string $kind, int $frame): ?array
    {
        $name = "{$prop} {$kind} {$frame}";
        if (! array_key_exists($name, $this->known)) {
            $this->known = array_slice($this->known, 1 - self::KEPT, null, true);
            $this->known[$name] = isset($this->recent[$frame]) ? $this->written($this->recent[$frame], $prop, $kind) : $this->read($prop, $kind, $frame);
        }

        return $this->known[$name];
    }

    /** @return array<int, float|int>|null */
    private function written(Frame $frame, string $prop, string $kind): ?array
    {
        $values = $frame->find($prop, $kind);
        $codec = Codecs::of($kind);

        return $values === null ? null : $codec->decode($codec->encode($values));
    }

    /** @return array<int, float|int>|null */
    private function read(string $prop, string $kind, int $frame): ?array
    {
        if ($frame < 1 || $frame > $this->last) {
            return null;
        }
        $this->reader ??= BakeReader::open($this->path);
        if ($this->reader->frames() < $frame) {
            $this->reader->refresh();
        }
        foreach ($this->reader->manifest->tracks as $number => $track) {
            if ($track->prop === $prop && $track->kind === $kind) {
                return $this->reader->track($frame, $number);
            }
        }

        return null;
    }

    public function isLive(): bool
    {
        return $this->name === '';
    }

    public function name(): string
    {
        return $this->name;
    }
}
