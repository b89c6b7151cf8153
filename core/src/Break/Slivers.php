<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Takes out faces that are nearly nothing, one by one: of one with a short side the ends become one vertex; of one whose
 * middle corner lies on the longest side, that corner goes onto the side of the faces across, as in flipping an edge. Each is
 * done only where every piece that it concerns stays a closed surface (`FaceSurgery`); otherwise the face stays, and may be opened
 * by a hair (`SliverOpening`).
 */
final class Slivers
{
    /** Twice the area of a sliver is less than this part of its longest edge squared; what is written keeps above half of it. */
    private const FLAT = 4e-9;

    /** The ends of a side shorter than this part of the longest edge become one. */
    private const SHORT = 1.6e-8;

    /** The same, where there is no other way ... */
    private const SHORT_ENOUGH = 1e-6;

    /** ... and where all else has been tried. */
    private const SHORT_AT_LAST = 2e-4;

    /** What was mended may leave others, with shorter edges. */
    private const ROUNDS = 16;

    /** So many rounds in which there are no fewer than before, and it ends. */
    private const IDLE = 3;

    /** The skin's volume may change by less than this part. */
    private const VOLUME = 1e-10;

    /** Sides shorter than this part of the longest are drawn together before all else. */
    private float $short = self::SHORT;

    private readonly FaceSurgery $surgery;

    private function __construct(private readonly Fracture $fracture)
    {
        $this->surgery = new FaceSurgery($fracture);
    }

    /** @return bool whether there were any */
    public static function remove(Fracture $fracture): bool
    {
        $slivers = self::among($fracture, null);
        if ($slivers === []) {
            return false;
        }
        $own = new self($fracture);
        $volume = array_sum($fracture->volumes());
        foreach ([self::SHORT, self::SHORT_AT_LAST] as $short) {
            if ($slivers === []) {
                break;
            }
            $before = clone $fracture;
            $own->short = $short;
            $slivers = $own->rounds($slivers);
            if (abs(array_sum($fracture->volumes()) - $volume) > self::VOLUME * abs($volume)) {
                $fracture->restore($before);
                break;
            }
        }
        $fracture->compact();

        return true;
    }

    /** Opens by a hair those that could not be taken out. */
    public static function open(Fracture $fracture): void
    {
        $slivers = self::among($fracture, null);
        if ($slivers === []) {
            return;
        }
        $before = clone $fracture;
        $volume = array_sum($fracture->volumes());
        SliverOpening::open($fracture, $slivers, self::FLAT);
        if (abs(array_sum($fracture->volumes()) - $volume) > self::VOLUME * abs($volume)) {
            $fracture->restore($before);
        }
    }

    /** The same of a mesh; what is open or flat as it was stays. */
    public static function without(TriangleMesh $mesh): TriangleMesh
    {
        if (self::flat($mesh->triangles, $mesh->x, $mesh->y, $mesh->z, range(0, $mesh->triangleCount() - 1)) === []) {
            return $mesh;
        }
        $fracture = Fracture::whole($mesh);
        self::remove($fracture);

        return PieceMeshes::of($fracture, $mesh)[0];
    }

    /**
     * @param array<int, true> $slivers
     *
     * @return array<int, true> those that are left
     */
    private function rounds(array $slivers): array
    {
        $least = count($slivers);
        $idle = 0;
        for ($round = 0; $round < self::ROUNDS && $slivers !== [] && $idle < self::IDLE; $round++) {
            $this->surgery->prepare($slivers);
            $this->mendAll($slivers);
            // Of those that could not be mended nothing has changed.
            $slivers = self::among($this->fracture, $this->surgery->changed() + $slivers);
            // Four places in a row may be turned over between them for ever.
            $idle = count($slivers) < $least ? 0 : $idle + 1;
            $least = min($least, count($slivers));
        }

        return $slivers;
    }

    /**
     * Those first beside which there is no other: of a row of them the last one, then the one before.
     *
     * @param array<int, true> $slivers
     */
    private function mendAll(array $slivers): void
    {
        do {
            $before = count($slivers);
            foreach ($slivers as $f => $_) {
                if ($this->mend($f, $slivers)) {
                    unset($slivers[$f]);
                }
            }
        } while ($slivers !== [] && count($slivers) < $before);
        foreach ($slivers as $f => $_) {
            $this->mend($f, []);
        }
    }

    /**
     * @param array<int, true>|null $which of these faces; null: of all
     *
     * @return array<int, true>
     */
    private static function among(Fracture $fracture, ?array $which): array
    {
        $faces = [];
        foreach ($which ?? $fracture->back as $f => $_) {
            if ($fracture->back[$f] !== Fracture::GONE) {
                $faces[] = $f;
            }
        }

        return self::flat($fracture->corner, $fracture->x, $fracture->y, $fracture->z, $faces);
    }

    /**
     * @param array<int, int> $C three corners a face
     * @param array<int, float> $X
     * @param array<int, float> $Y
     * @param array<int, float> $Z
     * @param list<int> $faces
     *
     * @return array<int, true>
     */
    private static function flat(array $C, array $X, array $Y, array $Z, array $faces): array
    {
        $slivers = [];
        $limit = self::FLAT * self::FLAT;
        foreach ($faces as $f) {
            $a = $C[3 * $f];
            $b = $C[3 * $f + 1];
            $c = $C[3 * $f + 2];
            $ux = $X[$b] - $X[$a];
            $uy = $Y[$b] - $Y[$a];
            $uz = $Z[$b] - $Z[$a];
            $vx = $X[$c] - $X[$a];
            $vy = $Y[$c] - $Y[$a];
            $vz = $Z[$c] - $Z[$a];
            $nx = $uy * $vz - $uz * $vy;
            $ny = $uz * $vx - $ux * $vz;
            $nz = $ux * $vy - $uy * $vx;
            $u = $ux * $ux + $uy * $uy + $uz * $uz;
            $v = $vx * $vx + $vy * $vy + $vz * $vz;
            $w = ($vx - $ux) * ($vx - $ux) + ($vy - $uy) * ($vy - $uy) + ($vz - $uz) * ($vz - $uz);
            $longest = $u >= $v ? ($u >= $w ? $u : $w) : ($v >= $w ? $v : $w);
            if ($nx * $nx + $ny * $ny + $nz * $nz < $limit * $longest * $longest || $longest <= 0.0) {
                $slivers[$f] = true;
            }
        }

        return $slivers;
    }

    /**
     * @param array<int, true> $spared faces that nothing is put into
     *
     * @return bool whether the face is gone
     */
    private function mend(int $face, array $spared): bool
    {
        $f = $this->fracture;
        if ($f->back[$face] === Fracture::GONE) {
            return true;
        }
        $corners = [$f->corner[3 * $face], $f->corner[3 * $face + 1], $f->corner[3 * $face + 2]];
        $length = [];
        foreach ([0, 1, 2] as $e) {
            $length[$e] = $this->surgery->distance($corners[$e], $corners[($e + 1) % 3]);
        }
        $long = (int) array_search(max($length), $length, true);
        $short = (int) array_search(min($length), $length, true);
        $ends = [$corners[$short], $corners[($short + 1) % 3]];
        $side = [$corners[$long], $corners[($long + 1) % 3], $corners[($long + 2) % 3]];
        $ratio = $length[$long] > 0.0 ? $length[$short] / $length[$long] : 0.0;
        if ($ratio < $this->short && $this->surgery->draw(max($ends), min($ends))) {
            return true;
        }

        return $this->surgery->insert($spared, ...$side) || ($ratio < self::SHORT_ENOUGH && $this->surgery->draw(max($ends), min($ends)));
    }
}
