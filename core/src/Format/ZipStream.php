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

    private const STORED = 0;

    private const DEFLATED = 8;

    /** Bytes of a file's header before its name. */
    private const HEADER = 30;

    /** What readers take for extra data that they need not understand. */
    private const PADDING = 0x1986;

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
        $this->begin($name, self::DEFLATED, crc32($content), strlen($packed), strlen($content), '');
        $this->put($packed);
    }

    /**
     * As it is.
     *
     * @param resource $content a file that can be read twice, from its beginning
     * @param int $aligned what it holds begins at a multiple of so many bytes
     *
     * @throws BadFile if it has 4 GB or more
     */
    public function store(string $name, $content, int $aligned): void
    {
        rewind($content);
        $sum = hash_init('crc32b');
        $size = hash_update_stream($sum, $content);
        if ($size >= self::ELSEWHERE) {
            throw new BadFile("{$name} would have more than 4 GB, which such a file cannot hold. Hand over fewer frames, or another format.");
        }
        $short = ($this->at + self::HEADER + strlen($name)) % $aligned;
        // A field of extra data has two numbers before it, so that the least gap is four bytes.
        $gap = $short === 0 ? 0 : ($aligned - $short < 4 ? 2 * $aligned - $short : $aligned - $short);
        $this->begin($name, self::STORED, (int) hexdec(hash_final($sum)), $size, $size, $gap === 0 ? '' : pack('vv', self::PADDING, $gap - 4) . str_repeat("\0", $gap - 4));
        rewind($content);
        $this->at += (int) stream_copy_to_stream($content, $this->out);
    }

    /** @param string $padding extra data before what the file holds */
    private function begin(string $name, int $method, int $sum, int $packed, int $size, string $padding): void
    {
        $common = pack('vvvvVVVv', 1 << 11, $method, self::TIME, self::DATE, $sum, $packed, $size, strlen($name));
        $far = $this->at >= self::ELSEWHERE;
        $extra = $far ? pack('vvP', 1, 8, $this->at) : '';
        $this->directory .= pack('Vvv', 0x02014B50, 45, 45) . $common . pack('vvvvVV', strlen($extra), 0, 0, 0, 0, $far ? self::ELSEWHERE : $this->at) . $name . $extra;
        $this->files++;
        $this->put(pack('Vv', 0x04034B50, 45) . $common . pack('v', strlen($padding)) . $name . $padding);
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
