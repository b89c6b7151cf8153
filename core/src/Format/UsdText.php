<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

/** USD as text, written as it is made: prims in each other, and attributes that may change from frame to frame. */
final class UsdText
{
    private int $depth = 0;

    /** Whether a prim has just been opened, so that nothing stands in it yet. */
    private bool $fresh = true;

    /** How much later than it happens each frame is called. */
    private int $later = 0;

    /** @param resource $out */
    public function __construct(private $out)
    {
    }

    /**
     * Of the whole file: metres, y up, a time code a frame.
     *
     * @param string $root the prim that is taken when the file is referred to
     * @param int $first what the first frame is called
     */
    public function head(string $root, float $fps, int $frames, int $first): void
    {
        $this->later = $first - 1;
        $last = $frames + $this->later;
        $rate = self::number($fps, 6);
        fwrite($this->out, "#usda 1.0\n(\n    defaultPrim = \"{$root}\"\n    doc = \"Yard Break\"\n    endTimeCode = {$last}\n    framesPerSecond = {$rate}\n    metersPerUnit = 1\n    startTimeCode = {$first}\n    timeCodesPerSecond = {$rate}\n    upAxis = \"Y\"\n)\n");
    }

    /** @param list<string> $about what is said of the prim */
    public function open(string $type, string $name, array $about = []): void
    {
        if (! $this->fresh || $this->depth === 0) {
            fwrite($this->out, "\n");
        }
        $this->line("def {$type} \"{$name}\"" . ($about === [] ? '' : ' ('));
        foreach ($about as $said) {
            $this->line("    {$said}");
        }
        if ($about !== []) {
            $this->line(')');
        }
        $this->line('{');
        $this->depth++;
        $this->fresh = true;
    }

    public function close(): void
    {
        $this->depth--;
        $this->line('}');
    }

    public function line(string $text): void
    {
        fwrite($this->out, str_repeat('    ', $this->depth) . "{$text}\n");
        $this->fresh = false;
    }

    /**
     * An attribute that may change: what stays is said once, and of a time in which nothing changes its beginning and its end.
     *
     * @param string $declared type and name
     * @param iterable<int, string> $values by frame, in their order; held one at a time
     * @param string $about what is said of it, in brackets
     */
    public function over(string $declared, iterable $values, string $about = ''): void
    {
        $first = $last = $held = null;
        $open = false;
        foreach ($values as $number => $value) {
            $frame = $number + $this->later;
            if ($last === null) {
                $first = $frame;
            } elseif ($value === $last) {
                $held = $frame;
                continue;
            } else {
                if (! $open) {
                    if ($about !== '') {
                        $this->line("{$declared} ({$about})");
                    }
                    $this->line("{$declared}.timeSamples = {");
                    $this->line("    {$first}: {$last},");
                    $open = true;
                }
                if ($held !== null) {
                    $this->line("    {$held}: {$last},");
                }
                $this->line("    {$frame}: {$value},");
            }
            [$last, $held] = [$value, null];
        }
        if ($open) {
            $this->line('}');
        } elseif ($last !== null) {
            $this->line("{$declared} = {$last}" . ($about === '' ? '' : " ({$about})"));
        }
    }

    /** What prims may be called: letters, digits and underlines. */
    public static function name(string $text): string
    {
        $name = (string) preg_replace('/[^A-Za-z0-9_]/', '_', $text);

        return $name === '' || ctype_digit($name[0]) ? "_{$name}" : $name;
    }

    public static function text(string $text): string
    {
        return '"' . addcslashes((string) preg_replace('/[\x00-\x1f\x7f]/', ' ', $text), '"\\') . '"';
    }

    public static function number(float $value, int $digits): string
    {
        return (string) round($value, $digits);
    }

    /** @param array<int, float|int> $values of one vector */
    public static function vector(array $values, int $digits): string
    {
        $said = [];
        foreach ($values as $value) {
            $said[] = round($value, $digits);
        }

        return '(' . implode(', ', $said) . ')';
    }

    /**
     * @param array<int, float|int> $values
     * @param int<1, max> $size of each vector
     */
    public static function vectors(array $values, int $size, int $digits): string
    {
        $said = [];
        foreach (array_chunk($values, $size) as $vector) {
            $said[] = self::vector($vector, $digits);
        }

        return '[' . implode(', ', $said) . ']';
    }

    /** @param array<int, float|int> $values */
    public static function numbers(array $values, int $digits): string
    {
        return '[' . substr(self::vector($values, $digits), 1, -1) . ']';
    }

    /** How many decimals tell places on something so large from each other as well as singles do. */
    public static function digits(float $size): int
    {
        return max(3, min(14, 7 - (int) floor(log10(max(1e-9, $size)))));
    }
}
