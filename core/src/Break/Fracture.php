<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\TriangleMesh;

/**
 * All pieces of a broken mesh as one complex. Vertices are shared, and a face inside the prop is held once, for the piece
 * behind it and the piece in front: neighbours fit by construction, whatever is done to the vertices afterwards.
 *
 * A face is three corners, counter-clockwise as seen from the front. Faces of the skin have nothing in front; they remember
 * the triangle of the source mesh they are part of, and each corner's weights in it (so normals and texture coordinates can
 * be carried over). Inner faces remember the wall they lie in.
 *
 * Filled and changed by {@see PieceCutter}, {@see PieceMerger}, {@see InnerFaces}; read out by {@see PieceMeshes}.
 */
final class Fracture
{
    /** In front of the skin. */
    public const OUTSIDE = -1;

    /** Behind a face that is no more. */
    public const GONE = -2;

    /** @var array<int, float> */
    public array $x;

    /** @var array<int, float> */
    public array $y;

    /** @var array<int, float> */
    public array $z;

    /** @var array<int, int> three vertices a face */
    public array $corner;

    /** @var array<int, int> piece a face */
    public array $back;

    /** @var array<int, int> piece a face, or OUTSIDE */
    public array $front;

    /** @var array<int, int> a face's triangle of the source mesh; -1 - w for a face in wall w */
    public array $origin;

    /** @var array<int, float> six numbers a face: weights of the source triangle's first and second vertex at each corner */
    public array $weight;

    /** @var array<int, float> three numbers a wall: its unit normal, away from the back of its faces */
    public array $wall = [];

    /** @var array<int, float> nine numbers a face: normals at the corners of inner faces that are not flat any more */
    public array $innerNormal = [];

    public int $pieces = 1;

    /** @var int how many of the first vertices are the source mesh's own */
    public int $known = 0;

    /** @var array<int, int> which layer along a rim a piece is, if it is one, the innermost 0 */
    public array $layer = [];

    /** @var list<string> what an artist should know of the break, in words */
    public array $notes = [];

    /** @var float how far cutters may have moved their walls to keep clear of ties, m */
    public float $blur = 0.0;

    /** @var float volume of what was taken away (joints, openings), m3 */
    public float $discarded = 0.0;

    private function __construct()
    {
    }

    /** The mesh in one piece. */
    public static function whole(TriangleMesh $mesh): self
    {
        $f = new self();
        $faces = $mesh->triangleCount();
        $f->x = $mesh->x;
        $f->y = $mesh->y;
        $f->z = $mesh->z;
        $f->known = $mesh->vertexCount();
        $f->corner = $mesh->triangles;
        $f->back = array_fill(0, $faces, 0);
        $f->front = array_fill(0, $faces, self::OUTSIDE);
        $f->origin = range(0, max(0, $faces - 1));
        $weight = [];
        for ($k = 0; $k < $faces; $k++) {
            $weight[] = 1.0;
            $weight[] = 0.0;
            $weight[] = 0.0;
            $weight[] = 1.0;
            $weight[] = 0.0;
            $weight[] = 0.0;
        }
        $f->weight = $weight;

        return $f;
    }

    /** Goes back to a copy made earlier. */
    public function restore(self $copy): void
    {
        foreach (get_object_vars($copy) as $name => $value) {
            $this->{$name} = $value;
        }
    }

    public function faceCount(): int
    {
        return count($this->back);
    }

    /** @param array{float, float, float} $normal */
    public function addWall(array $normal): int
    {
        array_push($this->wall, ...$normal);

        return intdiv(count($this->wall), 3) - 1;
    }

    /**
     * The faces of each piece, both those it lies behind and those it lies in front of, in their order.
     *
     * @return array<int, list<int>>
     */
    public function facesByPiece(): array
    {
        $faces = array_fill(0, $this->pieces, []);
        foreach ($this->back as $f => $piece) {
            if ($piece !== self::GONE) {
                $faces[$piece][] = $f;
                if ($this->front[$f] !== self::OUTSIDE) {
                    $faces[$this->front[$f]][] = $f;
                }
            }
        }

        return $faces;
    }

    /**
     * Volume of each piece, m3.
     *
     * @return array<int, float>
     */
    public function volumes(): array
    {
        $volume = array_fill(0, $this->pieces, 0.0);
        if ($this->x === [] || $this->y === [] || $this->z === []) {
            return $volume;
        }
        // From the middle of the bounds, so that far-away meshes lose no digits.
        $ox = 0.5 * (min($this->x) + max($this->x));
        $oy = 0.5 * (min($this->y) + max($this->y));
        $oz = 0.5 * (min($this->z) + max($this->z));
        $x = $this->x;
        $y = $this->y;
        $z = $this->z;
        $corner = $this->corner;
        $fronts = $this->front;
        foreach ($this->back as $f => $piece) {
            if ($piece === self::GONE) {
                continue;
            }
            $a = $corner[3 * $f];
            $b = $corner[3 * $f + 1];
            $c = $corner[3 * $f + 2];
            $bx = $x[$b] - $ox;
            $by = $y[$b] - $oy;
            $bz = $z[$b] - $oz;
            $cx = $x[$c] - $ox;
            $cy = $y[$c] - $oy;
            $cz = $z[$c] - $oz;
            $d = (($x[$a] - $ox) * ($by * $cz - $bz * $cy) + ($y[$a] - $oy) * ($bz * $cx - $bx * $cz)
                + ($z[$a] - $oz) * ($bx * $cy - $by * $cx)) / 6.0;
            $volume[$piece] += $d;
            $front = $fronts[$f];
            if ($front !== self::OUTSIDE) {
                $volume[$front] -= $d;
            }
        }

        return $volume;
    }

    /**
     * Takes pieces away: what they touched lies open, with the look of a fresh face.
     *
     * @param list<int> $pieces
     *
     * @return array<int, int> new numbers of the pieces that are left
     */
    public function discard(array $pieces): array
    {
        if ($pieces === []) {
            return range(0, max(0, $this->pieces - 1));
        }
        $volumes = $this->volumes();
        $gone = array_fill_keys($pieces, true);
        $turned = [];
        foreach ($pieces as $piece) {
            $this->discarded += $volumes[$piece];
        }
        foreach ($this->back as $f => $back) {
            $front = $this->front[$f];
            if ($back === self::GONE) {
                continue;
            }
            if (isset($gone[$back]) && ($front === self::OUTSIDE || isset($gone[$front]))) {
                $this->back[$f] = self::GONE;
            } elseif (isset($gone[$back])) {
                // Turned around, so that what stays lies behind; the wall's normal turns with it.
                $wall = -3 * ($this->origin[$f] + 1);
                $turned[$wall] ??= $this->addWall([-$this->wall[$wall], -$this->wall[$wall + 1], -$this->wall[$wall + 2]]);
                $this->origin[$f] = -1 - $turned[$wall];
                [$this->corner[3 * $f + 1], $this->corner[3 * $f + 2]] = [$this->corner[3 * $f + 2], $this->corner[3 * $f + 1]];
                $this->back[$f] = $front;
                $this->front[$f] = self::OUTSIDE;
            } elseif ($front !== self::OUTSIDE && isset($gone[$front])) {
                $this->front[$f] = self::OUTSIDE;
            }
        }

        return $this->compact();
    }

    /**
     * Which pieces touch, and the area they share, m2.
     *
     * @return array<int, array<int, float>> by piece and neighbour, both ways round
     */
    public function sharedAreas(): array
    {
        $shared = array_fill(0, $this->pieces, []);
        foreach ($this->back as $f => $piece) {
            $other = $this->front[$f];
            if ($piece !== self::GONE && $other !== self::OUTSIDE) {
                $area = $this->area($f);
                $shared[$piece][$other] = ($shared[$piece][$other] ?? 0.0) + $area;
                $shared[$other][$piece] = ($shared[$other][$piece] ?? 0.0) + $area;
            }
        }

        return $shared;
    }

    /** Of a face, m2. */
    public function area(int $face): float
    {
        [$x, $y, $z] = $this->cross($face);

        return 0.5 * sqrt($x * $x + $y * $y + $z * $z);
    }

    /**
     * The way a face looks, twice its area long.
     *
     * @return array{float, float, float}
     */
    public function cross(int $face): array
    {
        [$a, $b, $c] = [$this->corner[3 * $face], $this->corner[3 * $face + 1], $this->corner[3 * $face + 2]];
        $ux = $this->x[$b] - $this->x[$a];
        $uy = $this->y[$b] - $this->y[$a];
        $uz = $this->z[$b] - $this->z[$a];
        $vx = $this->x[$c] - $this->x[$a];
        $vy = $this->y[$c] - $this->y[$a];
        $vz = $this->z[$c] - $this->z[$a];

        return [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
    }

    /**
     * Drops the faces that are gone, and numbers the pieces that are left from 0, in their order.
     *
     * @return array<int, int> new numbers by old ones
     */
    public function compact(): array
    {
        $number = [];
        $corner = $back = $front = $origin = $weight = $normal = [];
        foreach ($this->back as $f => $piece) {
            if ($piece !== self::GONE) {
                $number[$piece] = true;
                $number[$this->front[$f]] = true;
            }
        }
        unset($number[self::OUTSIDE]);
        ksort($number);
        $number = array_flip(array_keys($number));
        foreach ($this->back as $f => $piece) {
            if ($piece === self::GONE) {
                continue;
            }
            for ($k = 9 * $f, $o = 9 * count($back); isset($this->innerNormal[$k]) && $k < 9 * $f + 9; $k++) {
                $normal[$o++] = $this->innerNormal[$k];
            }
            $back[] = $number[$piece];
            $front[] = $this->front[$f] === self::OUTSIDE ? self::OUTSIDE : $number[$this->front[$f]];
            $origin[] = $this->origin[$f];
            for ($k = 3 * $f; $k < 3 * $f + 3; $k++) {
                $corner[] = $this->corner[$k];
            }
            for ($k = 6 * $f; $k < 6 * $f + 6; $k++) {
                $weight[] = $this->weight[$k];
            }
        }
        $this->corner = $corner;
        $this->back = $back;
        $this->front = $front;
        $this->origin = $origin;
        $this->weight = $weight;
        $this->innerNormal = $normal;
        $this->pieces = count($number);
        $layer = [];
        foreach ($this->layer as $piece => $of) {
            if (isset($number[$piece])) {
                $layer[$number[$piece]] = $of;
            }
        }
        $this->layer = $layer;

        return $number;
    }
}
