<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use Generator;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Bake\Manifest;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\UsdText;
use YardBreak\Core\Mesh\BentNormals;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\BrokenProp;
use YardBreak\Core\Stage\Pipeline;

/**
 * USD text with time samples: a prim a prop, in it a mesh a piece that moves by translate, orient and scale; what moves by its
 * vertices is one mesh whose points are sampled. What is gone is invisible. Materials are preview surfaces, colours that change
 * with the weight are display colours, and the weight is a primvar of every mesh, so that looks may be led by it elsewhere too.
 *
 * Terms, units and schemas: OpenUSD, UsdGeom and UsdShade.
 */
final readonly class AnimatedUsd implements Exporter
{
    private const ROOT = 'shot';

    /** Pieces and vertices, times frames, that are written in a second. */
    private const QUICK = 50_000;

    public function __construct(private Pipeline $pipeline)
    {
    }

    public function format(): array
    {
        return ['extension' => 'usda', 'type' => 'model/vnd.usda', 'ofOneFrame' => false];
    }

    public function isQuick(Manifest $manifest): bool
    {
        return $manifest->parts() * $manifest->frames <= self::QUICK;
    }

    public function write(Shot $shot, BakeReader $bake, $out, string $name, array $options, callable $progress): void
    {
        $this->scene($shot, $bake, $out, $name, [], $progress);
    }

    /**
     * @param resource $out
     * @param array<string, string> $pictures where the picture of a prop's face stands, seen from the file, by the prop's id
     * @param callable(int, int): void $progress
     */
    public function scene(Shot $shot, BakeReader $bake, $out, string $name, array $pictures, callable $progress): void
    {
        $usd = new UsdText($out);
        $usd->head(self::ROOT, $shot->fps, $bake->manifest->frames, $shot->firstFrame);
        $usd->open('Xform', self::ROOT, ['kind = "component"', 'displayName = ' . UsdText::text($name)]);
        $usd->open('Xform', 'props');
        UsdSamples::place($usd, $shot->placing);
        $tell = Telling::of($bake->manifest, $progress);
        foreach ($shot->props as $prop) {
            $usd->open('Xform', self::named($prop), ['displayName = ' . UsdText::text($prop->name)]);
            UsdLooks::write($usd, self::path($prop), Looks::of($prop, $pictures[$prop->id] ?? null), Looks::changes($prop));
            $broken = $this->pipeline->broken($prop);
            if ($bake->manifest->track($prop->id, Track::VERTICES) !== null) {
                $this->bent($usd, $prop, $broken, $bake, $tell);
            } else {
                $this->pieces($usd, $prop, $broken, $bake, $tell);
            }
            $usd->close();
        }
        $usd->close();
        $this->cords($usd, $shot, $bake);
        UsdView::camera($usd, $shot);
        UsdView::lights($usd, $shot);
        $usd->close();
    }

    /** Ropes and springs, each a mesh whose points are sampled. */
    private function cords(UsdText $usd, Shot $shot, BakeReader $bake): void
    {
        $cords = Cord::all($shot, $bake);
        if ($cords === []) {
            return;
        }
        $path = '/' . self::ROOT . '/joints';
        $usd->open('Xform', 'joints');
        UsdSamples::place($usd, $shot->placing);
        UsdLooks::write($usd, $path, [Cord::look()], false);
        foreach ($cords as $cord) {
            $digits = UsdText::digits($cord->mesh->size());
            $frames = static function (callable $say) use ($bake): Generator {
                for ($frame = 1; $frame <= $bake->manifest->frames; $frame++) {
                    yield $frame => $say($frame);
                }
            };
            $this->mesh($usd, $path, UsdText::name($cord->id), $cord->mesh, ['displayName = ' . UsdText::text($cord->name)]);
            $usd->over('float3[] extent', $frames(static fn (int $frame): string => UsdSamples::extent($cord->placesAt($frame), $digits)));
            $usd->over('point3f[] points', $frames(static fn (int $frame): string => UsdText::vectors($cord->placesAt($frame), 3, $digits)));
            $usd->over('token visibility', $frames(static fn (int $frame): string => $cord->holds($frame) ? '"inherited"' : '"invisible"'));
            $usd->close();
        }
        $usd->close();
    }

    private static function named(Prop $prop): string
    {
        return UsdText::name($prop->id);
    }

    private static function path(Prop $prop): string
    {
        return '/' . self::ROOT . '/props/' . self::named($prop);
    }

    /** @param callable(): void $tell called at each piece */
    private function pieces(UsdText $usd, Prop $prop, BrokenProp $broken, BakeReader $bake, callable $tell): void
    {
        $count = count($broken->pieces);
        [$low, $high] = $broken->bounds;
        $digits = UsdText::digits(max($high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]));
        $turn = PieceKeys::turn($bake->manifest->frames);
        for ($from = 0; $from < $count; $from += $turn) {
            $to = min($count, $from + $turn);
            foreach (PieceKeys::of($prop, $bake, $from, $to, true) as $k => $keys) {
                $p = $from + $k;
                $mesh = $broken->pieces->mesh($p);
                [$x, $y, $z] = $broken->centre($p);
                $this->mesh($usd, self::path($prop), sprintf('%s_%03d', UsdText::name($prop->prefix()), $p + 1), $mesh);
                $places = [];
                foreach ($mesh->x as $i => $at) {
                    array_push($places, $at - $x, $mesh->y[$i] - $y, $mesh->z[$i] - $z);
                }
                $usd->line('float3[] extent = ' . UsdSamples::extent($places, $digits));
                $usd->line('point3f[] points = ' . UsdText::vectors($places, 3, $digits));
                $normals = new BentNormals($mesh);
                $usd->line('normal3f[] primvars:normals = ' . UsdText::vectors($normals->resting(), 3, UsdSamples::PARTS) . ' (interpolation = "faceVarying")');
                $usd->line('int[] primvars:normals:indices = ' . UsdText::numbers($normals->shared, 0));
                UsdSamples::motion($usd, $keys, $digits);
                $this->weighed($usd, $prop, static fn (): Generator => UsdSamples::singles($keys['weights'] ?? '', 1), 'constant');
                $usd->close();
                $tell();
            }
        }
    }

    /**
     * A prop that moves by its vertices, all its pieces in one mesh.
     *
     * @param callable(): void $tell called at each frame
     */
    private function bent(UsdText $usd, Prop $prop, BrokenProp $broken, BakeReader $bake, callable $tell): void
    {
        $mesh = TriangleMesh::together($broken->pieces);
        $normals = new BentNormals($mesh);
        $digits = UsdText::digits($mesh->size());
        $places = fn (): Generator => self::track($prop, $bake, Track::VERTICES);
        $this->mesh($usd, self::path($prop), 'surface', $mesh);
        $usd->over('float3[] extent', UsdSamples::said($places(), static fn (array $at): string => UsdSamples::extent($at, $digits)));
        $usd->over('point3f[] points', UsdSamples::said($places(), static function (array $at) use ($digits, $tell): string {
            $tell();

            return UsdText::vectors($at, 3, $digits);
        }));
        $usd->over('normal3f[] primvars:normals', UsdSamples::said($places(), static fn (array $at): string => UsdText::vectors($normals->at($at), 3, UsdSamples::SHADES)), 'interpolation = "faceVarying"');
        $usd->line('int[] primvars:normals:indices = ' . UsdText::numbers($normals->shared, 0));
        $this->weighed($usd, $prop, fn (): Generator => self::track($prop, $bake, Track::WEIGHT), 'vertex');
        $usd->close();
    }

    /**
     * Opens a mesh and says all of it but where its vertices are.
     *
     * @param string $of path of whose looks it has
     * @param list<string> $more said of the prim
     */
    private function mesh(UsdText $usd, string $of, string $name, TriangleMesh $mesh, array $more = []): void
    {
        $looks = [];
        for ($t = 0, $count = $mesh->triangleCount(); $t < $count; $t++) {
            $looks[$mesh->looks[$t] ?? TriangleMesh::LOOK_OUTER][] = $t;
        }
        $bound = static fn (int $look): string => 'rel material:binding = <' . UsdLooks::path($of, $look) . '>';
        $usd->open('Mesh', $name, ['prepend apiSchemas = ["MaterialBindingAPI"]', ...$more]);
        // A skin is seen from both sides; of what is closed nobody sees the other one.
        $usd->line('uniform bool doubleSided = 1');
        $usd->line('uniform token subdivisionScheme = "none"');
        $usd->line('int[] faceVertexCounts = ' . UsdText::numbers(array_fill(0, $count, 3), 0));
        $usd->line('int[] faceVertexIndices = ' . UsdText::numbers($mesh->triangles, 0));
        if ($mesh->uvs !== null) {
            $usd->line('texCoord2f[] primvars:st = ' . UsdText::vectors($mesh->uvs, 2, UsdSamples::PARTS) . ' (interpolation = "faceVarying")');
        }
        if (count($looks) < 2) {
            $usd->line($bound((int) array_key_first($looks)));

            return;
        }
        $usd->line('uniform token subsetFamily:materialBind:familyType = "partition"');
        ksort($looks);
        foreach ($looks as $look => $faces) {
            $usd->open('GeomSubset', UsdLooks::name($look), ['prepend apiSchemas = ["MaterialBindingAPI"]']);
            $usd->line('uniform token elementType = "face"');
            $usd->line('uniform token familyName = "materialBind"');
            $usd->line('int[] indices = ' . UsdText::numbers($faces, 0));
            $usd->line($bound($look));
            $usd->close();
        }
    }

    /**
     * The weight, and the colour where that goes with it.
     *
     * @param callable(): iterable<int, array<int, float|int>> $weights by frame
     * @param string $each whose they are, as USD names it
     */
    private function weighed(UsdText $usd, Prop $prop, callable $weights, string $each): void
    {
        $each = "interpolation = \"{$each}\"";
        $usd->over('float[] primvars:weight', UsdSamples::said($weights(), static fn (array $of): string => UsdText::numbers($of, UsdSamples::SHADES)), $each);
        $from = Looks::linear($prop->look->string('outer'));
        if (! Looks::changes($prop)) {
            $usd->line('color3f[] primvars:displayColor = ' . UsdText::vectors($from, 3, UsdSamples::PARTS) . ' (interpolation = "constant")');

            return;
        }
        $way = array_map(static fn (float $a, float $b): float => $b - $a, $from, Looks::linear($prop->look->string('changed')));
        $usd->over('color3f[] primvars:displayColor', UsdSamples::said($weights(), static function (array $of) use ($from, $way): string {
            $colours = [];
            foreach ($of as $share) {
                array_push($colours, $from[0] + $share * $way[0], $from[1] + $share * $way[1], $from[2] + $share * $way[2]);
            }

            return UsdText::vectors($colours, 3, UsdSamples::SHADES);
        }), $each);
    }

    /** @return Generator<int, array<int, float|int>> values of a track by frame; none: there is no such track */
    private static function track(Prop $prop, BakeReader $bake, string $kind): Generator
    {
        $track = $bake->manifest->track($prop->id, $kind);
        for ($frame = 1; $track !== null && $frame <= $bake->manifest->frames; $frame++) {
            yield $frame => $bake->track($frame, $track) ?? throw PieceKeys::unbaked($frame);
        }
    }
}
