<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

/**
 * Parts of a track that differ from its base: how many, those parts, and for each how many parts of the track lie between it and
 * the one before, a byte each; 255 says that there are 255 more, and that the next byte goes on.
 */
final class ChangedParts
{
    private const MOST = 255;

    /** @param array<int, string> $parts by number, in order, all of one size */
    public static function encode(array $parts): string
    {
        $gaps = '';
        $next = 0;
        foreach ($parts as $number => $part) {
            $gap = $number - $next;
            if ($gap >= self::MOST) {
                $gaps .= str_repeat("\xff", intdiv($gap, self::MOST));
            }
            $gaps .= chr($gap % self::MOST);
            $next = $number + 1;
        }

        return pack('V', count($parts)) . implode('', $parts) . $gaps;
    }

    /**
     * @param string $bytes of the base
     * @param string $parts that differ from it, encoded
     * @param int $size bytes of a part
     */
    public static function onto(string $bytes, string $parts, int $size): string
    {
        /** @var array{1: int} $count */
        $count = unpack('V', $parts);
        $end = 4 + $size * $count[1];
        $to = 0;
        for ($from = 4, $gap = $end; $from < $end; $from += $size, $gap++) {
            for (; $parts[$gap] === "\xff"; $gap++) {
                $to += self::MOST * $size;
            }
            $to += ord($parts[$gap]) * $size;
            for ($b = 0; $b < $size; $b++) {
                $bytes[$to++] = $parts[$from + $b];
            }
        }

        return $bytes;
    }
}
