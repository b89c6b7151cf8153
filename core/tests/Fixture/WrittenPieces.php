<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Fixture;

/**
 * Reads pieces back from the text of an OBJ file, with nothing of the product, and says what is wrong with them: each must be
 * closed, look outwards and have no face that is nothing.
 */
final class WrittenPieces
{
    /** Twice a face's area is at least this part of its longest edge squared. */
    private const FLAT = 2e-9;

    /** @var array<string, float> volume of each piece by name */
    public array $volumes = [];

    /** @var array<string, int> how many pieces have each fault */
    public array $faults = [];

    public function __construct(string $obj)
    {
        /** @var list<array{float, float, float}> $places */
        $places = [];
        /** @var list<array{int, int, int}> $faces */
        $faces = [];
        $name = '';
        foreach (explode("\n", $obj . "\no ") as $line) {
            $words = explode(' ', $line);
            if ($words[0] === 'v') {
                $places[] = [(float) $words[1], (float) $words[2], (float) $words[3]];
            } elseif ($words[0] === 'f') {
                $faces[] = [(int) $words[1] - 1, (int) $words[2] - 1, (int) $words[3] - 1];
            } elseif ($words[0] === 'o') {
                if ($faces !== []) {
                    $this->piece($name, $places, $faces);
                }
                [$name, $faces] = [$words[1] ?? '', []];
            }
        }
    }

    /**
     * @param list<array{float, float, float}> $places
     * @param list<array{int, int, int}> $faces
     */
    private function piece(string $name, array $places, array $faces): void
    {
        $origin = $places[$faces[0][0]];
        $uses = [];
        $volume = 0.0;
        $flat = false;
        foreach ($faces as $corners) {
            $p = [];
            foreach ($corners as $c => $v) {
                $p[] = [$places[$v][0] - $origin[0], $places[$v][1] - $origin[1], $places[$v][2] - $origin[2]];
                $key = $v . ',' . $corners[($c + 1) % 3];
                $uses[$key] = ($uses[$key] ?? 0) + 1;
            }
            [$a, $b, $c] = $p;
            $volume += ($a[0] * ($b[1] * $c[2] - $b[2] * $c[1]) + $a[1] * ($b[2] * $c[0] - $b[0] * $c[2]) + $a[2] * ($b[0] * $c[1] - $b[1] * $c[0])) / 6.0;
            $u = [$b[0] - $a[0], $b[1] - $a[1], $b[2] - $a[2]];
            $w = [$c[0] - $a[0], $c[1] - $a[1], $c[2] - $a[2]];
            $longest = max($u[0] ** 2 + $u[1] ** 2 + $u[2] ** 2, $w[0] ** 2 + $w[1] ** 2 + $w[2] ** 2, ($u[0] - $w[0]) ** 2 + ($u[1] - $w[1]) ** 2 + ($u[2] - $w[2]) ** 2);
            $flat = $flat || sqrt(($u[1] * $w[2] - $u[2] * $w[1]) ** 2 + ($u[2] * $w[0] - $u[0] * $w[2]) ** 2 + ($u[0] * $w[1] - $u[1] * $w[0]) ** 2) < self::FLAT * $longest;
        }
        $open = $crowded = false;
        foreach ($uses as $key => $count) {
            $back = $uses[implode(',', array_reverse(explode(',', $key)))] ?? 0;
            $crowded = $crowded || $count > 1 || $back > 1;
            $open = $open || $back === 0;
        }
        $this->volumes[$name] = $volume;
        foreach (['open' => $open, 'crowded' => $crowded, 'inside out' => $volume <= 0.0, 'flat face' => $flat] as $fault => $is) {
            if ($is) {
                $this->faults[$fault] = ($this->faults[$fault] ?? 0) + 1;
            }
        }
    }
}
