<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

use YardBreak\Core\Motion\Surface\Tangles;

/** Draws back what of a surface has come through itself. */
final readonly class Untangling
{
    public function __construct(private Weave $weave, private NearPairs $pairs)
    {
    }

    /**
     * Where it has come through itself it is drawn back, without a change of speed; until that is done, what is tangled does not push
     * itself apart.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px places before
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param array<int, float> $w inverse masses
     * @param float $tight share of how far two must stay apart, below which what is around them may have come through
     * @param bool $folds whether to look at sharp folds too, whose own faces come through each other
     *
     * @return bool whether it had come through itself
     */
    public function untangle(array &$x, array &$y, array &$z, array &$px, array &$py, array &$pz, array $w, float $tight, bool $folds): bool
    {
        $this->pairs->letNone();
        $changed = null;
        $radius = $this->pairs->radius;
        for ($round = 0; $round < ClothTuning::UNTANGLE; ++$round) {
            $near = $this->near($x, $y, $z, $w, $tight, $changed, $folds ? Folds::sharp($x, $y, $z, $this->weave->triangles) : []);
            $ways = $near === [] ? [] : Tangles::waysOut(Tangles::facing($near, $x, $y, $z, $this->weave->triangles, $this->weave->around), $x, $y, $z, $this->weave->triangles, $this->weave->around);
            if ($ways === []) {
                return $round > 0;
            }
            foreach ($ways as $i => [$a, $b, $c]) {
                $by = $w[$i] > 0.0 ? ClothTuning::WAY_OUT * $radius[$i] : 0.0;
                $x[$i] += $by * $a;
                $y[$i] += $by * $b;
                $z[$i] += $by * $c;
                $px[$i] += $by * $a;
                $py[$i] += $by * $b;
                $pz[$i] += $by * $c;
            }
            // Elsewhere all is as it was when it was looked at.
            $changed = $this->beside($ways);
        }
        // With those beside them: the tip of what hangs through is pushed the wrong way too.
        $this->pairs->letBe($this->beside($ways));

        return true;
    }

    /**
     * @param array<int, mixed> $vertices
     *
     * @return array<int, true> corners of the triangles at these vertices
     */
    private function beside(array $vertices): array
    {
        $beside = [];
        $triangles = $this->weave->triangles;
        foreach ($vertices as $i => $_) {
            foreach ($this->weave->around[$i] as $t) {
                $beside[$triangles[$t]] = true;
                $beside[$triangles[$t + 1]] = true;
                $beside[$triangles[$t + 2]] = true;
            }
        }

        return $beside;
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $w
     * @param array<int, true>|null $of pairs with one of these only; null: all
     * @param array<int, true> $sharp vertices in sharp folds
     *
     * @return list<array{int, int}> pairs so near that what is around them may have come through, and not both held
     */
    private function near(array $x, array $y, array $z, array $w, float $tight, ?array $of, array $sharp): array
    {
        $near = [];
        [$first, $other, $radius] = [$this->pairs->first, $this->pairs->other, $this->pairs->radius];
        $share = $tight ** 2;
        foreach ($this->pairs->vertex as $k => $a) {
            $all = $of === null || isset($of[$a]);
            for ($c = $first[$k], $end = $first[$k + 1]; $c < $end; ++$c) {
                $b = $other[$c];
                if (! $all && ! isset($of[$b])) {
                    continue;
                }
                $dx = $x[$a] - $x[$b];
                $dy = $y[$a] - $y[$b];
                $dz = $z[$a] - $z[$b];
                $l = $dx * $dx + $dy * $dy + $dz * $dz;
                $d = $radius[$a] + $radius[$b];
                if (($w[$a] > 0.0 || $w[$b] > 0.0) && (($l < $share * $d * $d && $l < $this->pairs->tight($a, $b, $tight)) || (isset($sharp[$a], $sharp[$b]) && $this->pairs->isEdge($a, $b)))) {
                    $near[] = [$a, $b];
                }
            }
        }

        return $near;
    }
}
