<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

/**
 * A ZIP that is written as it is made (PKWARE APPNOTE 6.3, with the sizes of ZIP64 where they are needed). PHP's own extension
 * holds all that it packs in memory until the end, or needs it in files.
 */
final class ZipStream
{
    private const FAST = 1;

    /** What does not fit in 32 bits stands elsewhere. */
    private const ELSEWHERE = 0xFFFFFFFF;

    /** 1 January 1980: the same files are the same bytes. */
    private const TIME = 0;
    private const DATE = 33;

    private int $at = 0;

    private int $files = 0;

    private string $directory = '';

    /** @param resource $out */
    public function __construct(private $out)
    {
    }

    /** @param string $name of a file, in letters that a path may have; its content may have 4 GB */
    public function add(string $name, string $content): void
    {
        $packed = (string) gzdeflate($content, self::FAST);
        $common = pack('vvvvVVVv', 1 << 11, 8, self::TIME, self::DATE, crc32($content), strlen($packed), strlen($content), strlen($name));
        $far = $this->at >= self::ELSEWHERE;
        $extra = $far ? pack('vvP', 1, 8, $this->at) : '';
        $this->directory .= pack('Vvv', 0x02014B50, 45, 45) . $common . pack('vvvvVV', strlen($extra), 0, 0, 0, 0, $far ? self::ELSEWHERE : $this->at) . $name . $extra;
        $this->files++;
        $this->put(pack('Vv', 0x04034B50, 45) . $common . pack('v', 0) . $name);
        $this->put($packed);
    }

    public function close(): void
    {
        [$from, $size] = [$this->at, strlen($this->directory)];
        $this->put($this->directory);
        if ($from >= self::ELSEWHERE || $size >= self::ELSEWHERE || $this->files >= 0xFFFF) {
            $end = $this->at;
            $this->put(pack('VPvvVVPPPP', 0x06064B50, 44, 45, 45, 0, 0, $this->files, $this->files, $size, $from));
            $this->put(pack('VVPV', 0x07064B50, 0, $end, 1));
        }
        $this->put(pack('VvvvvVVv', 0x06054B50, 0, 0, min(0xFFFF, $this->files), min(0xFFFF, $this->files), min(self::ELSEWHERE, $size), min(self::ELSEWHERE, $from), 0));
    }

    private function put(string $bytes): void
    {
        fwrite($this->out, $bytes);
        $this->at += strlen($bytes);
    }
}
