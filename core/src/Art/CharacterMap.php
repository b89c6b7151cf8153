<?php

declare(strict_types=1);

namespace YardBreak\Core\Art;

use YardBreak\Core\Format\BadFile;

/**
 * Which glyph a character is, from a font's “cmap” table, formats 4 and 12 (OpenType specification 1.9). Characters are looked up one by one: a table may
 * say in a few bytes that it has billions.
 */
final readonly class CharacterMap
{
    /** Sets of characters, the largest first: of Windows, and of Unicode, in 32 bits and in 16. */
    private const SETS = [[3, 10], [0, 6], [0, 4], [3, 1], [0, 3], [0, 2], [0, 1], [0, 0]];

    /** @param int $at where the table of the set that is used begins */
    private function __construct(private FontBytes $table, private int $at)
    {
    }

    /** @throws BadFile if there is none that can be read, or it is damaged */
    public static function of(?string $cmap): self
    {
        $table = new FontBytes($cmap ?? throw new BadFile('The font has no “cmap” table.'));
        $found = [];
        for ($k = 0, $count = $table->number(2), $at = 4; $k < $count; $k++, $at += 8) {
            $begin = $table->number($at + 4, 4);
            if (in_array($table->number($begin), [4, 12], true)) {
                $found["{$table->number($at)} {$table->number($at + 2)}"] = $begin;
            }
        }
        foreach (self::SETS as [$platform, $encoding]) {
            if (isset($found["{$platform} {$encoding}"])) {
                return new self($table, $found["{$platform} {$encoding}"]);
            }
        }
        throw new BadFile('The font does not say in Unicode which letters it has. Use another.');
    }

    /**
     * @param int $character in Unicode
     *
     * @return int|null null: the font has none
     *
     * @throws BadFile if the table is damaged
     */
    public function glyph(int $character): ?int
    {
        $glyph = $this->table->number($this->at) === 4 ? $this->inSegments($character) : $this->inGroups($character);

        return $glyph === 0 ? null : $glyph;
    }

    private function inSegments(int $character): int
    {
        $table = $this->table;
        $wide = $table->number($this->at + 6);
        $ends = $this->at + 14;
        $starts = $ends + $wide + 2;
        for ($k = 0; $k + 2 <= $wide; $k += 2) {
            if ($table->number($ends + $k) < $character) {
                continue;
            }
            $start = $table->number($starts + $k);
            if ($start > $character) {
                return 0;
            }
            $delta = $table->number($starts + $wide + $k);
            $from = $starts + 2 * $wide + $k;
            $offset = $table->number($from);
            $glyph = $offset === 0 ? $character : $table->number($from + $offset + 2 * ($character - $start));

            return $glyph === 0 ? 0 : ($glyph + $delta) & 0xFFFF;
        }

        return 0;
    }

    private function inGroups(int $character): int
    {
        $table = $this->table;
        [$low, $high] = [0, $table->number($this->at + 12, 4) - 1];
        while ($low <= $high) {
            $middle = ($low + $high) >> 1;
            $at = $this->at + 16 + 12 * $middle;
            $start = $table->number($at, 4);
            if ($character < $start) {
                $high = $middle - 1;
            } elseif ($character > $table->number($at + 4, 4)) {
                $low = $middle + 1;
            } else {
                return $table->number($at + 8, 4) + $character - $start;
            }
        }

        return 0;
    }
}
