<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Track;

/** What a frames file says of itself, before its first record. */
final readonly class Manifest
{
    public const MAGIC = 'YBFRAMES';

    public const VERSION = 3;

    /** Magic, version, length of the text. */
    private const FIXED = 16;

    /**
     * @param int $frames that the bake will have
     * @param string $hash SHA-256 of all that decides the frames, as hex
     * @param list<Track> $tracks
     * @param list<string> $readout names of the numbers written at each frame
     */
    public function __construct(
        public float $fps,
        public int $frames,
        public string $hash,
        public array $tracks,
        public array $readout = Frame::READOUT,
    ) {
    }

    /** Padded to eight bytes, so that records are aligned. */
    public function encode(): string
    {
        $text = json_encode([
            'fps' => $this->fps,
            'frames' => $this->frames,
            'hash' => $this->hash,
            'readout' => $this->readout,
            'tracks' => array_map(static fn (Track $track): array => ['prop' => $track->prop, 'kind' => $track->kind, 'count' => $track->count], $this->tracks),
        ], JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES);
        $text .= str_repeat(' ', (8 - strlen($text) % 8) % 8);

        return self::MAGIC . pack('VV', self::VERSION, strlen($text)) . $text;
    }

    /**
     * @param resource $file at its beginning
     *
     * @return array{self, int} and how many bytes it takes
     *
     * @throws BadBake
     */
    public static function read($file): array
    {
        $fixed = (string) fread($file, self::FIXED);
        if (strlen($fixed) < self::FIXED || ! str_starts_with($fixed, self::MAGIC)) {
            throw new BadBake('This is no frames file.');
        }
        /** @var array{version: int, length: int} $head */
        $head = unpack('Vversion/Vlength', $fixed, 8);
        if ($head['version'] !== self::VERSION) {
            throw new BadBake("These frames were baked by an older Yard Break (format {$head['version']}). Bake again to see them.");
        }
        $text = $head['length'] > 0 && $head['length'] < 1 << 24 ? (string) fread($file, $head['length']) : '';
        $value = json_decode($text, true, 8);
        $tracks = [];
        foreach (is_array($value) && is_array($value['tracks'] ?? null) ? $value['tracks'] : [] as $track) {
            if (is_array($track) && is_string($track['prop'] ?? null) && is_string($track['kind'] ?? null) && is_int($track['count'] ?? null)) {
                $tracks[] = new Track($track['prop'], $track['kind'], $track['count']);
            }
        }
        if (! is_array($value) || ! is_numeric($value['fps'] ?? null) || ! is_int($value['frames'] ?? null) || ! is_string($value['hash'] ?? null) || ! is_array($value['readout'] ?? null)) {
            throw new BadBake('The frames file is damaged at its beginning. Bake again.');
        }
        $readout = array_values(array_filter($value['readout'], is_string(...)));

        return [new self((float) $value['fps'], $value['frames'], $value['hash'], $tracks, $readout), self::FIXED + $head['length']];
    }

    /** The number of a prop's track of a kind; null: its mover does not write one. */
    public function track(string $prop, string $kind): ?int
    {
        foreach ($this->tracks as $k => $track) {
            if ($track->prop === $prop && $track->kind === $kind) {
                return $k;
            }
        }

        return null;
    }

    /** Pieces of all props, and vertices of those that move by them. */
    public function parts(): int
    {
        return array_sum(array_map(static fn (Track $track): int => $track->kind === Track::POSE || $track->kind === Track::VERTICES ? $track->count : 0, $this->tracks));
    }

    /** Pieces of all props. */
    public function pieces(): int
    {
        return array_sum(array_map(static fn (Track $track): int => $track->kind === Track::POSE ? $track->count : 0, $this->tracks));
    }
}
