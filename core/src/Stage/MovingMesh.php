<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Format\GlbReader;
use YardBreak\Core\Format\GlbScene;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\TriangleMesh;

/** The mesh of a file as its animations move it, in the axes, of the size and about the origin that its prop has. */
final readonly class MovingMesh
{
    public TriangleMesh $rest;

    /** s; from the first key of the file to its last. */
    public float $seconds;

    /** @var array{float, float, float, float, float, float, float, float, float} from the file's axes to the prop's, and its unit to m; row by row */
    private array $matrix;

    /**
     * @param array{float, float, float, float} $turn from the file's axes to the prop's
     * @param float $unit of the file, m
     * @param array{float, float, float} $origin of the prop, in its own axes, seen from the file's, m
     *
     * @throws BadFile if nothing moves in it
     */
    public function __construct(private GlbScene $scene, array $turn, float $unit, private array $origin)
    {
        if (! $scene->moves()) {
            throw new BadFile('Nothing moves in the file.');
        }
        $this->matrix = array_map(static fn (float $value): float => $unit * $value, Quaternion::matrix($turn));
        $mesh = GlbReader::mesh($scene);
        [$x, $y, $z] = $this->carried(array_values($mesh->x), array_values($mesh->y), array_values($mesh->z));
        $this->rest = new TriangleMesh($x, $y, $z, $mesh->triangles);
        $this->seconds = $scene->nodes->ends() - $scene->nodes->begins();
    }

    /**
     * @param float $seconds after the first key
     *
     * @return array{list<float>, list<float>, list<float>} of the vertices of {@see $rest}, m
     *
     * @throws BadFile
     */
    public function at(float $seconds): array
    {
        $seconds += $this->scene->nodes->begins();
        $places = $this->scene->nodes->places($seconds);
        $x = $y = $z = [];
        foreach (array_keys($this->scene->parts) as $part) {
            [$out, , $by] = $this->scene->placed($part, $places, $seconds);
            foreach ($by as $v => $_) {
                [$x[], $y[], $z[]] = [$out[3 * $v], $out[3 * $v + 1], $out[3 * $v + 2]];
            }
        }

        return $this->carried($x, $y, $z);
    }

    /**
     * @param list<float> $x
     * @param list<float> $y
     * @param list<float> $z
     *
     * @return array{list<float>, list<float>, list<float>}
     */
    private function carried(array $x, array $y, array $z): array
    {
        [$a, $b, $c, $d, $e, $f, $g, $h, $i] = $this->matrix;
        [$ox, $oy, $oz] = $this->origin;
        $u = $v = $w = [];
        foreach ($x as $k => $px) {
            [$py, $pz] = [$y[$k], $z[$k]];
            $u[] = $a * $px + $b * $py + $c * $pz - $ox;
            $v[] = $d * $px + $e * $py + $f * $pz - $oy;
            $w[] = $g * $px + $h * $py + $i * $pz - $oz;
        }

        return [$u, $v, $w];
    }
}
