<?php

declare(strict_types=1);

namespace YardBreak\Core\Art;

use YardBreak\Core\Format\BadFile;

/**
 * How much closer or farther two letters stand than their widths say, as the font has it: pairs and classes of pairs of its
 * “GPOS” table, or of the “kern” table of old fonts (OpenType specification 1.9, “Glyph Positioning Table”, “Kerning”).
 */
final readonly class Kerning
{
    /** Bit of a value that says by how much the first glyph's advance differs. */
    private const ADVANCE = 4;

    /** @param list<list<int>> $lookups where the tables of pairs of each lookup are in GPOS */
    private function __construct(private FontBytes $gpos, private array $lookups, private ?FontBytes $kern)
    {
    }

    /** @throws BadFile if a table is damaged */
    public static function of(?string $gpos, ?string $kern): self
    {
        $table = new FontBytes($gpos ?? '');
        $lookups = $gpos === null ? [] : self::lookups($table);

        return new self($table, $lookups, $lookups === [] && $kern !== null ? new FontBytes($kern) : null);
    }

    /**
     * @return int units of the font
     *
     * @throws BadFile if a table is damaged
     */
    public function between(int $left, int $right): int
    {
        $sum = 0;
        foreach ($this->lookups as $tables) {
            foreach ($tables as $table) {
                // The first that has the pair counts.
                $value = self::pair($this->gpos, $table, $left, $right);
                if ($value !== null) {
                    $sum += $value;
                    break;
                }
            }
        }

        return $sum + ($this->kern === null ? 0 : self::old($this->kern, $left, $right));
    }

    /** @return list<list<int>> */
    private static function lookups(FontBytes $gpos): array
    {
        $features = $gpos->number(6);
        $list = $gpos->number(8);
        $numbers = [];
        foreach (self::featuresInUse($gpos) as $feature) {
            $at = $features + 2 + 6 * $feature;
            if (substr($gpos->bytes, $at, 4) !== 'kern') {
                continue;
            }
            $at = $features + $gpos->number($at + 4);
            for ($k = 0, $count = $gpos->number($at + 2); $k < $count; $k++) {
                $numbers[$gpos->number($at + 4 + 2 * $k)] = true;
            }
        }
        ksort($numbers);

        return array_map(static fn (int $number): array => self::tablesOf($gpos, $list + $gpos->number($list + 2 + 2 * $number)), array_keys($numbers));
    }

    /** @return list<int> numbers of the features of what has no script of its own, or of Latin */
    private static function featuresInUse(FontBytes $gpos): array
    {
        $scripts = $gpos->number(4);
        $found = [];
        for ($k = 0, $count = $gpos->number($scripts); $k < $count; $k++) {
            $found[substr($gpos->bytes, $scripts + 2 + 6 * $k, 4)] = $scripts + $gpos->number($scripts + 6 + 6 * $k);
        }
        $script = $found['DFLT'] ?? $found['latn'] ?? null;
        $language = $script === null ? 0 : $gpos->number($script);
        if ($script === null || $language === 0) {
            return [];
        }
        $features = [];
        for ($k = 0, $count = $gpos->number($script + $language + 4); $k < $count; $k++) {
            $features[] = $gpos->number($script + $language + 6 + 2 * $k);
        }

        return $features;
    }

    /** @return list<int> where the tables of pairs of a lookup are */
    private static function tablesOf(FontBytes $gpos, int $lookup): array
    {
        $tables = [];
        $type = $gpos->number($lookup);
        for ($k = 0, $count = $gpos->number($lookup + 4); $k < $count; $k++) {
            $at = $lookup + $gpos->number($lookup + 6 + 2 * $k);
            // One that lies too far away is named by another.
            [$own, $at] = $type === 9 ? [$gpos->number($at + 2), $at + $gpos->number($at + 4, 4)] : [$type, $at];
            if ($own === 2) {
                $tables[] = $at;
            }
        }

        return $tables;
    }

    /** Null: the table says nothing of the pair. */
    private static function pair(FontBytes $gpos, int $table, int $left, int $right): ?int
    {
        $covered = self::covered($gpos, $table + $gpos->number($table + 2), $left);
        if ($covered === null) {
            return null;
        }
        [$first, $second] = [$gpos->number($table + 4), $gpos->number($table + 6)];
        [$wide, $advance] = [2 * self::bits($first) + 2 * self::bits($second), $first & self::ADVANCE ? 2 * self::bits($first & (self::ADVANCE - 1)) : null];
        if ($gpos->number($table) === 1) {
            $pairs = $table + $gpos->number($table + 10 + 2 * $covered);
            for ($k = 0, $count = $gpos->number($pairs), $at = $pairs + 2; $k < $count; $k++, $at += 2 + $wide) {
                if ($gpos->number($at) === $right) {
                    return $advance === null ? 0 : $gpos->signed($at + 2 + $advance);
                }
            }

            return null;
        }
        $one = self::classOf($gpos, $table + $gpos->number($table + 8), $left);
        $two = self::classOf($gpos, $table + $gpos->number($table + 10), $right);
        $row = $gpos->number($table + 14);

        return $advance === null || $one >= $gpos->number($table + 12) || $two >= $row ? 0 : $gpos->signed($table + 16 + ($one * $row + $two) * $wide + $advance);
    }

    /** Number of a glyph among those a table is about; null: it is not about it. */
    private static function covered(FontBytes $gpos, int $at, int $glyph): ?int
    {
        $count = $gpos->number($at + 2);
        if ($gpos->number($at) === 1) {
            for ($k = 0; $k < $count; $k++) {
                if ($gpos->number($at + 4 + 2 * $k) === $glyph) {
                    return $k;
                }
            }

            return null;
        }
        for ($k = 0, $at += 4; $k < $count; $k++, $at += 6) {
            $first = $gpos->number($at);
            if ($glyph >= $first && $glyph <= $gpos->number($at + 2)) {
                return $gpos->number($at + 4) + $glyph - $first;
            }
        }

        return null;
    }

    private static function classOf(FontBytes $gpos, int $at, int $glyph): int
    {
        if ($gpos->number($at) === 1) {
            $k = $glyph - $gpos->number($at + 2);

            return $k >= 0 && $k < $gpos->number($at + 4) ? $gpos->number($at + 6 + 2 * $k) : 0;
        }
        for ($k = 0, $count = $gpos->number($at + 2), $at += 4; $k < $count; $k++, $at += 6) {
            if ($glyph >= $gpos->number($at) && $glyph <= $gpos->number($at + 2)) {
                return $gpos->number($at + 4);
            }
        }

        return 0;
    }

    /** Pairs of a “kern” table, those of lines that run along. */
    private static function old(FontBytes $kern, int $left, int $right): int
    {
        $sum = 0;
        for ($t = 0, $count = $kern->number(2), $at = 4; $t < $count; $t++, $at += max(6, $kern->number($at + 2))) {
            // Format 0, along, and not of least distances or across.
            if (($kern->number($at + 4) & 0xFF07) !== 1) {
                continue;
            }
            for ($k = 0, $pairs = $kern->number($at + 6); $k < $pairs; $k++) {
                $pair = $at + 14 + 6 * $k;
                if ($kern->number($pair) === $left && $kern->number($pair + 2) === $right) {
                    $sum += $kern->signed($pair + 4);
                    break;
                }
            }
        }

        return $sum;
    }

    private static function bits(int $value): int
    {
        return substr_count(decbin($value), '1');
    }
}
