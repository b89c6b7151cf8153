<?php

declare(strict_types=1);

namespace YardBreak\Core\Art;

use YardBreak\Core\Format\BadFile;

/** A map of the plane: x' = a x + c y + e, y' = b x + d y + f (SVG 2, coordinate systems). */
final readonly class Affine
{
    public function __construct(
        public float $a = 1.0,
        public float $b = 0.0,
        public float $c = 0.0,
        public float $d = 1.0,
        public float $e = 0.0,
        public float $f = 0.0,
    ) {
    }

    /** This map after another one. */
    public function after(self $first): self
    {
        return new self(
            $this->a * $first->a + $this->c * $first->b,
            $this->b * $first->a + $this->d * $first->b,
            $this->a * $first->c + $this->c * $first->d,
            $this->b * $first->c + $this->d * $first->d,
            $this->a * $first->e + $this->c * $first->f + $this->e,
            $this->b * $first->e + $this->d * $first->f + $this->f,
        );
    }

    /** @return array{float, float} */
    public function at(float $x, float $y): array
    {
        return [$this->a * $x + $this->c * $y + $this->e, $this->b * $x + $this->d * $y + $this->f];
    }

    /** How much lengths grow, about. */
    public function scale(): float
    {
        return sqrt(abs($this->a * $this->d - $this->b * $this->c));
    }

    /** @throws BadFile if the list of transforms cannot be read */
    public static function read(string $text): self
    {
        $all = new self();
        if (trim($text) === '') {
            return $all;
        }
        if (preg_match_all('/(\w+)\s*\(([^)]*)\)/', $text, $found, PREG_SET_ORDER) === 0) {
            throw new BadFile("The transform “{$text}” cannot be read.");
        }
        foreach ($found as [, $name, $inside]) {
            $n = array_map(floatval(...), preg_split('/[\s,]+/', trim($inside), -1, PREG_SPLIT_NO_EMPTY) ?: []);
            $all = $all->after(match ($name) {
                'matrix' => new self($n[0] ?? 1.0, $n[1] ?? 0.0, $n[2] ?? 0.0, $n[3] ?? 1.0, $n[4] ?? 0.0, $n[5] ?? 0.0),
                'translate' => new self(e: $n[0] ?? 0.0, f: $n[1] ?? 0.0),
                'scale' => new self(a: $n[0] ?? 1.0, d: $n[1] ?? $n[0] ?? 1.0),
                'rotate' => self::turn($n[0] ?? 0.0, $n[1] ?? 0.0, $n[2] ?? 0.0),
                'skewX' => new self(c: tan(deg2rad($n[0] ?? 0.0))),
                'skewY' => new self(b: tan(deg2rad($n[0] ?? 0.0))),
                default => throw new BadFile("There is no transform “{$name}”."),
            });
        }

        return $all;
    }

    private static function turn(float $degrees, float $x, float $y): self
    {
        $c = cos(deg2rad($degrees));
        $s = sin(deg2rad($degrees));

        return new self($c, $s, -$s, $c, $x - $c * $x + $s * $y, $y - $s * $x - $c * $y);
    }
}
