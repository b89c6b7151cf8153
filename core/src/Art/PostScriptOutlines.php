<?php

declare(strict_types=1);

namespace YardBreak\Core\Art;

use YardBreak\Core\Format\BadFile;

/**
 * Outlines of an OpenType font whose letters are PostScript programs: the “CFF ” table (Adobe Technical Note 5176, The Compact
 * Font Format Specification; its keys and numbers by that document).
 */
final readonly class PostScriptOutlines
{
    /** Operators of dictionaries; those of two bytes from 1200 on. */
    private const CHAR_STRINGS = 17;

    private const PRIVATE = 18;

    private const SUBROUTINES = 19;

    private const MADE_LIKE = 1206;

    private const FONTS = 1236;

    private const SELECT = 1237;

    /**
     * @param list<string> $programs a glyph each
     * @param list<string> $global subroutines of all
     * @param list<list<string>> $local subroutines of each font in it
     * @param array<int, int> $fontOf glyph; none: the first
     */
    private function __construct(private array $programs, private array $global, private array $local, private array $fontOf)
    {
    }

    /**
     * @param string $bytes of the table
     *
     * @throws BadFile if it is damaged
     */
    public static function of(string $bytes): self
    {
        $table = new FontBytes($bytes);
        $at = $table->byte(2);
        [, $at] = self::index($table, $at);
        [$tops, $at] = self::index($table, $at);
        [, $at] = self::index($table, $at);
        [$global] = self::index($table, $at);
        $top = self::dictionary($tops[0] ?? throw FontBytes::damaged());
        if (($top[self::MADE_LIKE][0] ?? 2) !== 2) {
            throw new BadFile('The font has programs of an old kind. Save it with TrueType outlines (TTF), or use another.');
        }
        [$programs] = self::index($table, self::offset($top[self::CHAR_STRINGS][0] ?? 0));
        if (! isset($top[self::FONTS])) {
            return new self($programs, $global, [self::subroutines($table, $top)], []);
        }
        // Several fonts in one, as for large alphabets: each glyph says of which it is.
        [$fonts] = self::index($table, self::offset($top[self::FONTS][0] ?? 0));
        $local = array_map(static fn (string $font): array => self::subroutines($table, self::dictionary($font)), $fonts);

        return new self($programs, $global, $local, self::fontsOf($table, self::offset($top[self::SELECT][0] ?? 0), count($programs)));
    }

    /**
     * @return string path as in SVG, y up, in units of the font
     *
     * @throws BadFile if the glyph's program is damaged
     */
    public function path(int $glyph): string
    {
        $program = $this->programs[$glyph] ?? '';

        return $program === '' ? '' : (new CharString($this->global, $this->local[$this->fontOf[$glyph] ?? 0] ?? []))->run($program);
    }

    /**
     * @param array<int, list<float|int>> $dictionary
     *
     * @return list<string>
     */
    private static function subroutines(FontBytes $table, array $dictionary): array
    {
        [$size, $from] = [...$dictionary[self::PRIVATE] ?? [], 0, 0];
        $private = self::dictionary(substr($table->bytes, self::offset($from), self::offset($size)));
        $own = $private[self::SUBROUTINES][0] ?? null;

        return $own === null ? [] : self::index($table, self::offset($from) + self::offset($own))[0];
    }

    /** @return array<int, int> number of the font by glyph */
    private static function fontsOf(FontBytes $table, int $at, int $glyphs): array
    {
        $of = [];
        if ($table->byte($at) === 0) {
            for ($g = 0; $g < $glyphs; $g++) {
                $of[] = $table->byte($at + 1 + $g);
            }

            return $of;
        }
        // Ranges, each from its first glyph to that of the next.
        $ranges = $table->number($at + 1);
        for ($r = 0, $at += 3; $r < $ranges; $r++, $at += 3) {
            $font = $table->byte($at + 2);
            for ($g = $table->number($at), $end = min($glyphs, $table->number($at + 3)); $g < $end; $g++) {
                $of[$g] = $font;
            }
        }

        return $of;
    }

    /** @return array{list<string>, int} what an index holds, and where it ends */
    private static function index(FontBytes $table, int $at): array
    {
        $count = $table->number($at);
        if ($count === 0) {
            return [[], $at + 2];
        }
        $wide = $table->byte($at + 2);
        $offsets = $at + 3;
        // Counted from the byte before the first.
        $data = $offsets + ($count + 1) * $wide - 1;
        $items = [];
        $from = $table->number($offsets, $wide);
        for ($k = 1; $k <= $count; $k++) {
            $to = $table->number($offsets + $k * $wide, $wide);
            if ($to < $from || $data + $to > $table->length()) {
                throw FontBytes::damaged();
            }
            $items[] = substr($table->bytes, $data + $from, $to - $from);
            $from = $to;
        }

        return [$items, $data + $from];
    }

    /** @return array<int, list<float|int>> operands by operator */
    private static function dictionary(string $bytes): array
    {
        $table = new FontBytes($bytes);
        $found = $operands = [];
        for ($at = 0, $end = $table->length(); $at < $end;) {
            $b = $table->byte($at++);
            if ($b === 30) {
                // A real number in half bytes; none of those that matter here is one.
                for ($last = 0; $at < $end && ($last & 15) !== 15; $at++) {
                    $last = $table->byte($at);
                }
                $operands[] = 0;
            } elseif ($b === 28 || $b === 29) {
                $wide = $b === 28 ? 2 : 4;
                $operands[] = $table->signed($at, $wide);
                $at += $wide;
            } elseif ($b >= 32) {
                [$value, $more] = CharString::short($b, $at < $end ? $table->byte($at) : 0);
                $operands[] = $value;
                $at += $more;
            } else {
                $found[$b === 12 ? 1200 + $table->byte($at++) : $b] = $operands;
                $operands = [];
            }
        }

        return $found;
    }

    private static function offset(float|int $value): int
    {
        return $value >= 0 && is_int($value) ? $value : throw FontBytes::damaged();
    }
}
