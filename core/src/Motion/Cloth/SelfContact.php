<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

use YardBreak\Core\Motion\State;

/** Cloth that lies on itself: no two of its vertices' balls overlap; as long as edges are not stretched, no edge fits between. */
final class SelfContact
{
    private readonly NearPairs $pairs;

    private readonly Untangling $untangling;

    /**
     * @param float $close what is closer at rest may come as close as this share of it
     * @param float $within where that ends: what is at rest so many times as far apart as balls are that touch must stay as far as those; between, the farther the more
     */
    public function __construct(Weave $weave, private readonly float $friction, float $close = ClothTuning::CLOSE, float $within = 1.0)
    {
        $this->pairs = new NearPairs($weave, $close, $within);
        $this->untangling = new Untangling($weave, $this->pairs);
    }

    /**
     * Pushes apart what overlaps, with friction. A push is felt as speed only as far as they came towards each other.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px places before
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param array<int, float> $w inverse masses
     * @param bool $rubs false: places are only put right, and no speed changes
     */
    public function resolve(array &$x, array &$y, array &$z, array &$px, array &$py, array &$pz, array $w, bool $rubs): void
    {
        if ($this->pairs->other === []) {
            return;
        }
        [$X, $Y, $Z, $P, $Q, $R] = [$x, $y, $z, $px, $py, $pz];
        $x = $y = $z = $px = $py = $pz = [];
        [$first, $other, $apart] = [$this->pairs->first, $this->pairs->other, $this->pairs->apart];
        $friction = $rubs ? $this->friction : 0.0;
        foreach ($this->pairs->vertex as $k => $a) {
            $wa = $w[$a];
            for ($c = $first[$k], $end = $first[$k + 1]; $c < $end; ++$c) {
                $b = $other[$c];
                $dx = $X[$a] - $X[$b];
                $dy = $Y[$a] - $Y[$b];
                $dz = $Z[$a] - $Z[$b];
                $d = $apart[$c];
                $l = $dx * $dx + $dy * $dy + $dz * $dz;
                if ($l >= $d * $d || $l < 1e-18) {
                    continue;
                }
                $wb = $w[$b];
                $sum = $wa + $wb;
                if ($sum <= 0.0) {
                    continue;
                }
                $l = sqrt($l);
                $nx = $dx / $l;
                $ny = $dy / $l;
                $nz = $dz / $l;
                // Deep overlaps are undone over several turns: at once they would be shots.
                $push = $d - $l;
                $most = ClothTuning::PUSH * $d;
                $push = $push > $most ? $most : $push;
                $sa = $wa / $sum;
                $sb = $wb / $sum;
                $tx = $X[$a] - $P[$a] - $X[$b] + $P[$b];
                $ty = $Y[$a] - $Q[$a] - $Y[$b] + $Q[$b];
                $tz = $Z[$a] - $R[$a] - $Z[$b] + $R[$b];
                $along = $tx * $nx + $ty * $ny + $tz * $nz;
                $ma = $sa * $push;
                $mb = $sb * $push;
                $X[$a] += $ma * $nx;
                $Y[$a] += $ma * $ny;
                $Z[$a] += $ma * $nz;
                $X[$b] -= $mb * $nx;
                $Y[$b] -= $mb * $ny;
                $Z[$b] -= $mb * $nz;
                // What is more than they approached must not fling them apart.
                $came = $rubs && $along < 0.0 ? -$along : 0.0;
                $more = $push - $came;
                if ($more > 0.0) {
                    $ma = $sa * $more;
                    $mb = $sb * $more;
                    $P[$a] += $ma * $nx;
                    $Q[$a] += $ma * $ny;
                    $R[$a] += $ma * $nz;
                    $P[$b] -= $mb * $nx;
                    $Q[$b] -= $mb * $ny;
                    $R[$b] -= $mb * $nz;
                }
                if ($friction > 0.0) {
                    $tx -= $along * $nx;
                    $ty -= $along * $ny;
                    $tz -= $along * $nz;
                    $t = sqrt($tx * $tx + $ty * $ty + $tz * $tz);
                    $most = $friction * $push;
                    $f = $t > $most ? $most / $t : 1.0;
                    $ma = $sa * $f;
                    $mb = $sb * $f;
                    $X[$a] -= $ma * $tx;
                    $Y[$a] -= $ma * $ty;
                    $Z[$a] -= $ma * $tz;
                    $X[$b] += $mb * $tx;
                    $Y[$b] += $mb * $ty;
                    $Z[$b] += $mb * $tz;
                }
            }
        }
        [$x, $y, $z, $px, $py, $pz] = [$X, $Y, $Z, $P, $Q, $R];
    }

    /** It lies otherwise at rest from now on, as far apart as it does there, and has not grown. */
    public function lieAs(RestShape $shape): void
    {
        $this->pairs->lieAs($shape);
    }

    /** @param list<float> $times how many times as long as at rest it is at each vertex */
    public function grow(array $times): void
    {
        $this->pairs->grow($times);
    }

    /**
     * Looks who may meet, if they have come so far that a pair could be missed.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px places a substep before
     * @param array<int, float> $py
     * @param array<int, float> $pz
     *
     * @throws Crowded
     */
    public function watch(array $x, array $y, array $z, array $px, array $py, array $pz): void
    {
        $this->pairs->watch($x, $y, $z, $px, $py, $pz);
    }

    /**
     * Whether none that lie near each other come farther against each other, if all go on as they went.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px places before
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param float $times as far as from there
     * @param float $most m
     */
    public function isCalm(array $x, array $y, array $z, array $px, array $py, array $pz, float $times, float $most): bool
    {
        return $this->pairs->isCalm($x, $y, $z, $px, $py, $pz, $times, $most);
    }

    /**
     * Where it has come through itself it is drawn back ({@see Untangling}).
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
    public function untangle(array &$x, array &$y, array &$z, array &$px, array &$py, array &$pz, array $w, float $tight = ClothTuning::TIGHT, bool $folds = false): bool
    {
        return $this->untangling->untangle($x, $y, $z, $px, $py, $pz, $w, $tight, $folds);
    }

    /** @return list<int> vertices that have come through it, and could not be drawn back yet */
    public function tangled(): array
    {
        return $this->pairs->tangled();
    }

    /**
     * @param array<int, true> $of vertices
     *
     * @return array{list<int>, list<int>, list<float>} both vertices of each pair with one of them, and how far apart they must stay, m
     */
    public function pairs(array $of): array
    {
        return $this->pairs->with($of);
    }

    /** @return array<string, mixed> */
    public function save(): array
    {
        return $this->pairs->save();
    }

    public function restore(State $saved): void
    {
        $this->pairs->restore($saved);
    }
}
