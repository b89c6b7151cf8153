<?php

declare(strict_types=1);

namespace App\Remote;

use YardBreak\Core\Bake\BakeReader;

/** The files of a bake, part by part on their way to the yard: they only grow. */
final class Shipment
{
    /** So long frames are gathered before they are sent, s. */
    private const EVERY = 0.5;

    /** Parts are no larger than this, bytes. */
    private const PART = 8_000_000;

    private float $last = 0.0;

    /** @param array<string, int> $sent bytes of each file that are there */
    public function __construct(private readonly Depot $depot, private readonly string $bake, private readonly string $path, private array $sent)
    {
    }

    /** @return array<string, string> paths by name: the frames with their index, and as they happened where they are shown in another time */
    public static function files(string $path): array
    {
        return [
            'frames' => $path, 'index' => BakeReader::indexOf($path),
            'happened' => "{$path}.happened", 'happened-index' => BakeReader::indexOf("{$path}.happened"),
        ];
    }

    /**
     * Fetches what another worker had sent before it died.
     *
     * @param array<string, int> $sizes
     */
    public static function fetch(Depot $depot, string $bake, string $path, array $sizes): void
    {
        foreach (self::files($path) as $name => $file) {
            self::grow($depot, $bake, $name, $file, $sizes[$name] ?? 0, 0);
        }
    }

    /**
     * Appends the parts that have come to a file.
     *
     * @param int $to bytes that are there
     * @param int $from bytes that it has
     *
     * @return bool whether all of it came
     */
    public static function grow(Depot $depot, string $bake, string $name, string $file, int $to, int $from): bool
    {
        if ($to <= $from) {
            return true;
        }
        if (! is_dir(dirname($file))) {
            @mkdir(dirname($file), 0o775, true);
        }
        $out = @fopen($file, $from === 0 ? 'wb' : 'ab');
        while ($out !== false && $from < $to) {
            $part = $depot->getPart($bake, $name, $from);
            if ($part === null || $part === '' || @fwrite($out, $part) !== strlen($part)) {
                break;
            }
            $from += strlen($part);
        }
        if ($out !== false) {
            fclose($out);
        }

        return $from >= $to;
    }

    /** Sends what is new, if it is time to. */
    public function nowAndThen(): bool
    {
        return microtime(true) - $this->last >= self::EVERY && $this->send();
    }

    /** @return bool whether anything was sent */
    public function send(): bool
    {
        $this->last = microtime(true);
        $before = $this->sent;
        foreach (self::files($this->path) as $name => $file) {
            clearstatcache(true, $file);
            $size = (int) @filesize($file);
            $in = $size > ($this->sent[$name] ?? 0) ? @fopen($file, 'rb') : false;
            if ($in === false) {
                continue;
            }
            for ($from = $this->sent[$name] ?? 0; $from < $size; $from += strlen($bytes)) {
                fseek($in, $from);
                $bytes = (string) fread($in, max(1, min(self::PART, $size - $from)));
                if ($bytes === '') {
                    break;
                }
                $this->depot->putPart($this->bake, $name, $from, $bytes);
                $this->sent[$name] = $from + strlen($bytes);
            }
            fclose($in);
        }

        return $this->sent !== $before;
    }

    /** @return array<string, int> bytes of each file that are there, as the board says it */
    public function sent(): array
    {
        $sizes = [];
        foreach ($this->sent as $name => $size) {
            $sizes["size:{$name}"] = $size;
        }

        return $sizes;
    }

    /**
     * @param array<string, string> $seen what the board says
     *
     * @return array<string, int>
     */
    public static function sizes(array $seen): array
    {
        $sizes = [];
        foreach (array_keys(self::files('')) as $name) {
            if (isset($seen["size:{$name}"])) {
                $sizes[$name] = (int) $seen["size:{$name}"];
            }
        }

        return $sizes;
    }
}
