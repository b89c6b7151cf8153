<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use Closure;

/** Makes faces finer by halving their long edges, longest first; neighbours follow, so that everything keeps fitting. */
final readonly class PieceRefiner
{
    /** Halvings of an edge at most: a thousandth of its length is fine enough for anything. */
    private const ROUNDS = 10;

    public function __construct(private PieceFaces $faces)
    {
    }

    /**
     * @param list<int> $pieces
     * @param float $length edges longer than this are halved, m
     * @param Closure(int): bool $which faces whose edges are meant
     *
     * @return array<int, true> the new vertices
     */
    public function refine(array $pieces, float $length, Closure $which): array
    {
        $f = $this->faces->fracture;
        $new = [];
        $around = [];
        foreach ($pieces as $piece) {
            foreach ($this->faces->around($piece) as $other) {
                $around[$other] = true;
            }
        }
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $inserted = [];
            foreach ($pieces as $piece) {
                foreach ($this->faces->of($piece) as $face) {
                    if (! $which($face)) {
                        continue;
                    }
                    for ($k = 3 * $face, $e = 0; $e < 3; $e++) {
                        $a = $f->corner[$k + $e];
                        $b = $f->corner[$k + ($e === 2 ? 0 : $e + 1)];
                        $dx = $f->x[$b] - $f->x[$a];
                        $dy = $f->y[$b] - $f->y[$a];
                        $dz = $f->z[$b] - $f->z[$a];
                        if ($dx * $dx + $dy * $dy + $dz * $dz > $length * $length) {
                            $key = EdgeInserter::key($a, $b);
                            if (! isset($inserted[$key])) {
                                $v = count($f->x);
                                $f->x[] = 0.5 * ($f->x[$a] + $f->x[$b]);
                                $f->y[] = 0.5 * ($f->y[$a] + $f->y[$b]);
                                $f->z[] = 0.5 * ($f->z[$a] + $f->z[$b]);
                                $inserted[$key] = [$v];
                                $new[$v] = true;
                            }
                        }
                    }
                }
            }
            if ($inserted === []) {
                break;
            }
            (new EdgeInserter($this->faces))->insert($inserted, array_keys($around));
        }

        return $new;
    }
}
