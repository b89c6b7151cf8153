<?php

declare(strict_types=1);

namespace YardBreak\Core\Art;

use YardBreak\Core\Format\BadFile;

/**
 * A font whose tables are packed one by one (W3C, "WOFF File Format 1.0"), as the plain font it was made of: in memory and with a limit, as
 * what claims to be small may be huge.
 */
final class Woff
{
    /** What its tables may come to unpacked. */
    private const UNPACKED = 32 * 1024 * 1024;

    private const HEADER = 44;

    /** Name, offset, length, length unpacked, checksum. */
    private const ENTRY = 20;

    public static function is(string $bytes): bool
    {
        return str_starts_with($bytes, 'wOFF');
    }

    /**
     * @param string $bytes of the packed font
     *
     * @return string of the plain one
     *
     * @throws BadFile
     */
    public static function unpacked(string $bytes): string
    {
        $header = strlen($bytes) >= self::HEADER ? unpack('ncount', $bytes, 12) : false;
        $count = is_array($header) && is_int($header['count'] ?? null) ? $header['count'] : 0;
        $directory = $tables = '';
        $left = self::UNPACKED;
        for ($t = 0; $t < $count; $t++) {
            $at = self::HEADER + self::ENTRY * $t;
            $entry = strlen($bytes) >= $at + self::ENTRY ? unpack('N3', $bytes, $at + 4) : false;
            [$offset, $length, $unpacked] = is_array($entry) ? array_map(static fn (mixed $n): int => is_int($n) ? $n : 0, array_values($entry)) : [0, 0, self::UNPACKED];
            $left -= $unpacked;
            if ($left < 0 || $offset + $length > strlen($bytes)) {
                throw new BadFile('The font is damaged: its tables reach beyond the file, or come to more than 32 MB. Get it again, or use another.');
            }
            $table = substr($bytes, $offset, $length);
            $table = $length < $unpacked ? @gzuncompress($table, $unpacked) : $table;
            if ($table === false) {
                throw new BadFile('The font is damaged: a table cannot be unpacked. Get it again, or use another.');
            }
            // Plain: name, checksum, offset, length; each table begins at a multiple of four.
            $directory .= substr($bytes, $at, 4) . substr($bytes, $at + 16, 4) . pack('NN', 12 + 16 * $count + strlen($tables), strlen($table));
            $tables .= $table . str_repeat("\0", -strlen($table) & 3);
        }

        return substr($bytes, 4, 4) . pack('n4', $count, 0, 0, 0) . $directory . $tables;
    }
}
