<?php

declare(strict_types=1);

namespace YardBreak\Core\Art;

use YardBreak\Core\Format\BadFile;

/**
 * Runs the program that draws a letter (Adobe Technical Note 5177, The Type 2 Charstring Format: operators, and how many
 * numbers each takes, by that document). Hints are passed over: they matter to small sizes on screens.
 */
final class CharString
{
    /** How deep subroutines may call each other (the same document allows 10). */
    private const DEPTH = 10;

    /** A letter takes hundreds of operators; who takes so many runs in circles. */
    private const MOST = 100_000;

    /** Bytes of a path; ornate letters take thousands. */
    private const LONGEST = 1_000_000;

    /** Numbers at a time; the document says 48. */
    private const STACK = 513;

    private string $path = '';

    private float $x = 0.0;

    private float $y = 0.0;

    private bool $open = false;

    private bool $ended = false;

    private int $stems = 0;

    private int $steps = 0;

    /** Whether the width, which may stand before the first operator, has been passed. */
    private bool $begun = false;

    /** @var list<float> */
    private array $stack = [];

    /**
     * @param list<string> $global subroutines
     * @param list<string> $local
     */
    public function __construct(private readonly array $global, private readonly array $local)
    {
    }

    /**
     * @return string path as in SVG, y up
     *
     * @throws BadFile if it is damaged
     */
    public function run(string $program): string
    {
        $this->call($program, 0);
        $this->close();

        return $this->path;
    }

    /** @return array{int, int} a number of one or two bytes, the first of them from 32 on, and how many more bytes it took */
    public static function short(int $first, int $second): array
    {
        return match (true) {
            $first < 247 => [$first - 139, 0],
            $first < 251 => [256 * ($first - 247) + $second + 108, 1],
            default => [-256 * ($first - 251) - $second - 108, 1],
        };
    }

    private function call(string $program, int $depth): void
    {
        if ($depth > self::DEPTH) {
            throw self::damaged();
        }
        $end = strlen($program);
        for ($at = 0; $at < $end && ! $this->ended;) {
            $b = ord($program[$at++]);
            if (++$this->steps > self::MOST || count($this->stack) > self::STACK || strlen($this->path) > self::LONGEST) {
                throw self::damaged();
            }
            if ($b === 28) {
                $value = 256 * self::at($program, $at) + self::at($program, $at + 1);
                $this->stack[] = (float) ($value >= 32768 ? $value - 65536 : $value);
                $at += 2;
            } elseif ($b === 255) {
                $value = 256 * self::at($program, $at) + self::at($program, $at + 1);
                $this->stack[] = ($value >= 32768 ? $value - 65536 : $value) + (256 * self::at($program, $at + 2) + self::at($program, $at + 3)) / 65536.0;
                $at += 4;
            } elseif ($b >= 32) {
                [$value, $more] = self::short($b, $b < 247 ? 0 : self::at($program, $at));
                $this->stack[] = (float) $value;
                $at += $more;
            } elseif ($b === 11) {
                return;
            } elseif ($b === 10 || $b === 29) {
                $of = $b === 10 ? $this->local : $this->global;
                $number = (int) (array_pop($this->stack) ?? 0.0) + (count($of) < 1240 ? 107 : (count($of) < 33900 ? 1131 : 32768));
                $this->call($of[$number] ?? throw self::damaged(), $depth + 1);
            } elseif ($b === 19 || $b === 20) {
                // Stems may stand before it without an operator of their own; then a bit for each.
                $this->stem();
                $at += intdiv($this->stems + 7, 8);
            } elseif ($b === 12) {
                $this->flex(self::at($program, $at++));
                $this->stack = [];
            } else {
                $this->draw($b);
                $this->stack = [];
            }
        }
    }

    /** One operator that takes all numbers there are. */
    private function draw(int $operator): void
    {
        switch ($operator) {
            case 1: case 3: case 18: case 23:
                $this->stem();
                break;
            case 21:
                $this->width(2);
                $this->move($this->number(0), $this->number(1));
                break;
            case 22:
                $this->width(1);
                $this->move($this->number(0), 0.0);
                break;
            case 4:
                $this->width(1);
                $this->move(0.0, $this->number(0));
                break;
            case 5:
                $this->lines(0, count($this->stack));
                break;
            case 6: case 7:
                foreach ($this->stack as $k => $by) {
                    // In turns along and up, or up and along.
                    ($k % 2 === 0) === ($operator === 6) ? $this->line($by, 0.0) : $this->line(0.0, $by);
                }
                break;
            case 8:
                $this->curves(0, count($this->stack));
                break;
            case 24:
                $this->curves(0, count($this->stack) - 2);
                $this->lines(max(0, count($this->stack) - 2), count($this->stack));
                break;
            case 25:
                $this->lines(0, count($this->stack) - 6);
                $this->curves(max(0, count($this->stack) - 6), count($this->stack));
                break;
            case 26: case 27:
                $this->even($operator === 27);
                break;
            case 30: case 31:
                $this->turning($operator === 31);
                break;
            case 14:
                $this->width(count($this->stack) >= 4 ? 4 : 0);
                if (count($this->stack) >= 4) {
                    throw new BadFile('A letter of the font is put together in an old way. Save the font with TrueType outlines (TTF), or use another.');
                }
                $this->ended = true;
                break;
            default:
                throw self::damaged();
        }
    }

    /** Curves that begin and end along one axis. */
    private function even(bool $along): void
    {
        $s = $this->stack;
        $k = count($s) % 4;
        $off = $k > 0 ? $this->number(0) : 0.0;
        for ($k = $k > 0 ? 1 : 0; $k + 4 <= count($s); $k += 4, $off = 0.0) {
            $along ? $this->curve($s[$k], $off, $s[$k + 1], $s[$k + 2], $s[$k + 3], 0.0) : $this->curve($off, $s[$k], $s[$k + 1], $s[$k + 2], 0.0, $s[$k + 3]);
        }
    }

    /** Curves that begin along one axis and end along the other, in turns; the last may end off it. */
    private function turning(bool $along): void
    {
        $s = $this->stack;
        for ($k = 0, $count = count($s); $k + 4 <= $count; $k += 4, $along = ! $along) {
            $off = $count - $k === 5 ? $s[$k + 4] : 0.0;
            $along ? $this->curve($s[$k], 0.0, $s[$k + 1], $s[$k + 2], $off, $s[$k + 3]) : $this->curve(0.0, $s[$k], $s[$k + 1], $s[$k + 2], $s[$k + 3], $off);
        }
    }

    /** Two curves that small sizes draw as a line. */
    private function flex(int $operator): void
    {
        $n = fn (int $k): float => $this->number($k);
        switch ($operator) {
            case 35:
                $this->curves(0, 12);
                break;
            case 34:
                $this->curve($n(0), 0.0, $n(1), $n(2), $n(3), 0.0);
                $this->curve($n(4), 0.0, $n(5), -$n(2), $n(6), 0.0);
                break;
            case 36:
                $this->curve($n(0), $n(1), $n(2), $n(3), $n(4), 0.0);
                $this->curve($n(5), 0.0, $n(6), $n(7), $n(8), -($n(1) + $n(3) + $n(7)));
                break;
            case 37:
                [$dx, $dy] = [$n(0) + $n(2) + $n(4) + $n(6) + $n(8), $n(1) + $n(3) + $n(5) + $n(7) + $n(9)];
                $this->curve($n(0), $n(1), $n(2), $n(3), $n(4), $n(5));
                // It ends level with where it began, along the longer way.
                abs($dx) > abs($dy) ? $this->curve($n(6), $n(7), $n(8), $n(9), $n(10), -$dy) : $this->curve($n(6), $n(7), $n(8), $n(9), -$dx, $n(10));
                break;
            default:
                throw new BadFile('A letter of the font is computed in a way that cannot be read here. Save the font with TrueType outlines (TTF), or use another.');
        }
    }

    private function stem(): void
    {
        $this->width(count($this->stack) - count($this->stack) % 2);
        $this->stems += intdiv(count($this->stack), 2);
        $this->stack = [];
    }

    /** Before the first operator stands the width, if there is one number more than it takes. */
    private function width(int $takes): void
    {
        if (! $this->begun) {
            $this->stack = array_slice($this->stack, max(0, count($this->stack) - $takes));
            $this->begun = true;
        }
    }

    private function move(float $dx, float $dy): void
    {
        $this->close();
        $this->x += $dx;
        $this->y += $dy;
        $this->path .= sprintf('M%.4F %.4F', $this->x, $this->y);
        $this->open = true;
    }

    private function close(): void
    {
        if ($this->open) {
            $this->path .= 'Z';
        }
        $this->open = false;
    }

    private function line(float $dx, float $dy): void
    {
        $this->x += $dx;
        $this->y += $dy;
        $this->path .= sprintf('L%.4F %.4F', $this->x, $this->y);
    }

    /** Three steps, each from where the one before led. */
    private function curve(float $ax, float $ay, float $bx, float $by, float $cx, float $cy): void
    {
        $ax += $this->x;
        $ay += $this->y;
        $bx += $ax;
        $by += $ay;
        $this->x = $bx + $cx;
        $this->y = $by + $cy;
        $this->path .= sprintf('C%.4F %.4F %.4F %.4F %.4F %.4F', $ax, $ay, $bx, $by, $this->x, $this->y);
    }

    private function lines(int $from, int $to): void
    {
        for ($k = $from; $k + 2 <= $to; $k += 2) {
            $this->line($this->stack[$k], $this->stack[$k + 1]);
        }
    }

    private function curves(int $from, int $to): void
    {
        for ($k = $from; $k + 6 <= min($to, count($this->stack)); $k += 6) {
            $this->curve($this->stack[$k], $this->stack[$k + 1], $this->stack[$k + 2], $this->stack[$k + 3], $this->stack[$k + 4], $this->stack[$k + 5]);
        }
    }

    private function number(int $k): float
    {
        return $this->stack[$k] ?? throw self::damaged();
    }

    private static function at(string $program, int $at): int
    {
        return $at < strlen($program) ? ord($program[$at]) : throw self::damaged();
    }

    private static function damaged(): BadFile
    {
        return new BadFile('The font is damaged: the program of a letter does not hold what it says. Get it again, or use another.');
    }
}
