<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Bake\Codec\Codecs;
use YardBreak\Core\Bake\Codec\TrackCodec;
use YardBreak\Core\Motion\Frame;

/**
 * Appends frames to a file and their places to the index beside it. A reader may follow while it writes; what a writer that
 * dies leaves half written is dropped.
 */
final class BakeWriter
{
    /** @var list<TrackCodec> */
    private array $codecs = [];

    /** @var list<TrackWriter> */
    private array $tracks = [];

    /**
     * @param resource $file
     * @param resource $index
     */
    private function __construct(private readonly Manifest $manifest, private $file, private $index, private int $at)
    {
        foreach ($manifest->tracks as $track) {
            $this->codecs[] = $codec = Codecs::of($track->kind);
            $this->tracks[] = new TrackWriter($codec->size());
        }
    }

    /** @throws BadBake if there is no room */
    public static function create(string $path, Manifest $manifest): self
    {
        $file = @fopen($path, 'wb');
        $index = @fopen(BakeReader::indexOf($path), 'wb');
        if ($file === false || $index === false) {
            throw self::noRoom();
        }
        $head = $manifest->encode();
        self::put($file, $head);
        self::put($index, BakeReader::INDEX);

        return new self($manifest, $file, $index, strlen($head));
    }

    /**
     * Begins with the first frames of another file, or goes on behind a frame of this one; what comes after it is cut off.
     *
     * @param string $source a file with the same tracks
     *
     * @throws BadBake if the source does not hold that frame, or there is no room
     */
    public static function adopt(string $path, Manifest $manifest, string $source, int $after): self
    {
        $reader = BakeReader::open($source);
        if ($reader->frames() < $after) {
            throw new BadBake("The frames up to {$after} are not all there.");
        }
        // Beside its place first: the source may be the file itself.
        $part = "{$path}.part";
        $writer = self::create($part, $manifest);
        for ($n = 1; $n <= $after; $n++) {
            $writer->take($reader->recordBytes($n));
        }
        // As it was when that frame had been written, so that what follows has the same bytes.
        foreach (array_keys($manifest->tracks) as $k) {
            $rests = 0;
            for ($n = $after === 0 ? 1 : $reader->wholeOf($after, $k); $n <= $after; $n++) {
                $base = $reader->restsAs($n, $k);
                // Going on at rest changes nothing.
                if ($base === 0 || $base !== $rests) {
                    $writer->tracks[$k]->write($reader->trackBytes($n, $k), $n);
                }
                $rests = $base;
            }
        }
        self::place($part, $path);

        return $writer;
    }

    /**
     * A file that is whole, and its index, come to where they are looked for.
     *
     * @throws BadBake
     */
    public static function place(string $part, string $path): void
    {
        if (! @rename($part, $path) || ! @rename(BakeReader::indexOf($part), BakeReader::indexOf($path))) {
            throw self::noRoom();
        }
    }

    private function take(string $record): void
    {
        self::put($this->file, $record);
        self::put($this->index, pack('PV', $this->at, strlen($record)));
        $this->at += strlen($record);
    }

    /** @throws BadBake if there is no room */
    public function append(Frame $frame): void
    {
        $tracks = [];
        foreach ($this->codecs as $k => $codec) {
            $tracks[] = $this->tracks[$k]->write($codec->encode($frame->values[$k]), $frame->number);
        }
        $readout = array_map(static fn (string $name): float => $frame->readout[$name] ?? 0.0, $this->manifest->readout);
        $this->take(FrameRecord::encode($frame->number, $readout, $tracks));
    }

    public function close(): void
    {
        fclose($this->file);
        fclose($this->index);
    }

    /** @param resource $file */
    private static function put($file, string $bytes): void
    {
        if (@fwrite($file, $bytes) !== strlen($bytes) || ! @fflush($file)) {
            throw self::noRoom();
        }
    }

    private static function noRoom(): BadBake
    {
        return new BadBake('The frames could not be stored: is the disk full? Make room on the disk that holds the store, then bake again; what was stored before is kept.');
    }
}
