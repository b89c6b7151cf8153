<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use WeakMap;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Sightings;
use YardBreak\Core\Motion\Track;

/** Where the pieces of props were seen: weights that go by how others move ask here. */
final class SeenPieces
{
    /** What has shrunk to less than this is gone. */
    private const GONE = 1e-6;

    /** Surfaces of fewer triangles are sorted as fast as they are read. */
    private const WORTH_KEEPING = 500;

    /** @var WeakMap<Prop, array<int, SurfaceTree>> by piece, as they were broken */
    private WeakMap $trees;

    /** @var WeakMap<Prop, array{TriangleMesh, bool}> all pieces as one mesh, and whether it has an inside */
    private WeakMap $sheets;

    /** @var WeakMap<Prop, array{string, list<SeenPiece>|null}> what was asked for last */
    private WeakMap $known;

    /** @param Closure(string): BrokenProp $broken pieces of a prop of the shot, by id */
    public function __construct(public readonly Sightings $sightings, private readonly Closure $broken, private readonly StageRunner $runner)
    {
        $this->trees = new WeakMap();
        $this->sheets = new WeakMap();
        $this->known = new WeakMap();
    }

    /** @return list<SeenPiece>|null those that are there at the last whole frame that has been seen by then; null: nobody saw it */
    public function at(Prop $prop, float $frame): ?array
    {
        $seen = min((int) floor($frame), $this->sightings->last());
        // Where a weight puts it that goes by others is only known once these are; what is set on a prop goes by that one's weight.
        $seen -= $prop->mover->has('set') || $prop->mover->has('staged') && Weighing::goesByMotion($prop) ? 1 : 0;
        $name = "{$seen} {$this->sightings->last()}";
        if (($this->known[$prop][0] ?? '') !== $name) {
            $this->known[$prop] = [$name, $this->look($prop, $seen)];
        }

        return $this->known[$prop][1];
    }

    /** @return list<SeenPiece>|null */
    private function look(Prop $prop, int $frame): ?array
    {
        $vertices = $this->sightings->of($prop->id, Track::VERTICES, $frame);
        if ($vertices !== null) {
            return $this->sheet($prop, $vertices);
        }
        $poses = $this->sightings->of($prop->id, Track::POSE, $frame);
        if ($poses === null) {
            return null;
        }
        $broken = ($this->broken)($prop->id);
        if (count($poses) !== 7 * count($broken->mass)) {
            // It was broken otherwise then.
            return null;
        }
        $scales = $this->sightings->of($prop->id, Track::SCALE, $frame);
        $lives = $this->sightings->of($prop->id, Track::LIFE, $frame);
        $pieces = [];
        foreach ($broken->mass as $k => $mass) {
            $scale = $scales === null ? [1.0, 1.0, 1.0] : [(float) $scales[3 * $k], (float) $scales[3 * $k + 1], (float) $scales[3 * $k + 2]];
            if (($lives[$k] ?? 1.0) <= 0.0 || min($scale) < self::GONE) {
                continue;
            }
            $even = $scale[0] === $scale[1] && $scale[1] === $scale[2];
            $surface = $even ? $this->surface($prop, $broken, $k) : SurfaceTree::of($broken->pieces->mesh($k)->scaled($scale), $mass->volume > 0.0);
            $middle = [(float) $poses[7 * $k], (float) $poses[7 * $k + 1], (float) $poses[7 * $k + 2]];
            $turn = Quaternion::normalized([(float) $poses[7 * $k + 3], (float) $poses[7 * $k + 4], (float) $poses[7 * $k + 5], (float) $poses[7 * $k + 6]]);
            [$x, $y, $z] = $mass->centre;
            $position = Quaternion::carried($middle, $turn, [-$scale[0] * $x, -$scale[1] * $y, -$scale[2] * $z]);
            $pieces[] = new SeenPiece($surface, $even ? $scale[0] : 1.0, $position, $turn, $middle, max(1e-12, $mass->volume * $scale[0] * $scale[1] * $scale[2]));
        }

        return $pieces;
    }

    /**
     * @param array<int, float|int> $vertices
     *
     * @return list<SeenPiece>|null
     */
    private function sheet(Prop $prop, array $vertices): ?array
    {
        if (! isset($this->sheets[$prop])) {
            $mesh = TriangleMesh::together(($this->broken)($prop->id)->pieces);
            $this->sheets[$prop] = [$mesh, Topology::of($mesh)->isWatertight()];
        }
        [$mesh, $closed] = $this->sheets[$prop];
        if (count($vertices) !== 3 * $mesh->vertexCount()) {
            return null;
        }
        $x = $y = $z = [];
        for ($k = 0, $end = count($vertices); $k < $end; $k += 3) {
            $x[] = (float) $vertices[$k];
            $y[] = (float) $vertices[$k + 1];
            $z[] = (float) $vertices[$k + 2];
        }
        $n = max(1, count($x));
        $middle = [array_sum($x) / $n, array_sum($y) / $n, array_sum($z) / $n];

        return [new SeenPiece(SurfaceTree::of(new TriangleMesh($x, $y, $z, $mesh->triangles), $closed), 1.0, [0.0, 0.0, 0.0], Quaternion::IDENTITY, $middle, 1.0)];
    }

    private function surface(Prop $prop, BrokenProp $broken, int $piece): SurfaceTree
    {
        $trees = $this->trees[$prop] ?? [];
        if (! isset($trees[$piece])) {
            $mesh = $broken->pieces->mesh($piece);
            $trees[$piece] = $mesh->triangleCount() < self::WORTH_KEEPING ? SurfaceTree::of($mesh, $broken->mass[$piece]->volume > 0.0)
                : $this->runner->result(new PreparedSurface("{$broken->hash} {$piece}", static fn (): TriangleMesh => $mesh));
            $this->trees[$prop] = $trees;
        }

        return $trees[$piece];
    }

    /**
     * @param list<SeenPiece> $pieces
     *
     * @return array{float, float, float} of all of them, m; far away if there are none
     */
    public static function middle(array $pieces): array
    {
        $bulk = $x = $y = $z = 0.0;
        foreach ($pieces as $piece) {
            $bulk += $piece->bulk;
            $x += $piece->bulk * $piece->middle[0];
            $y += $piece->bulk * $piece->middle[1];
            $z += $piece->bulk * $piece->middle[2];
        }

        return $bulk > 0.0 ? [$x / $bulk, $y / $bulk, $z / $bulk] : [INF, INF, INF];
    }
}
