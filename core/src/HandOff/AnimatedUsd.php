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

    /** Decimals of what is 1 at the most. */
    private const PARTS = 7;

    /** Decimals of what is only looked at: normals of what bends, colours, weights. */
    private const SHADES = 4;

    /** The film of the camera, in tenths of a unit as USD has it: 36 mm wide. */
    private const FILM = 0.36;

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
        self::place($usd, $shot);
        $tell = Telling::of($bake->manifest, $progress);
        foreach ($shot->props as $prop) {
            $usd->open('Xform', self::named($prop), ['displayName = ' . UsdText::text($prop->name)]);
            $this->looks($usd, self::path($prop), Looks::of($prop, $pictures[$prop->id] ?? null), Looks::changes($prop));
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
        $this->camera($usd, $shot);
        $this->lights($usd, $shot);
        $usd->close();
    }

    private static function place(UsdText $usd, Shot $shot): void
    {
        if ($shot->placing !== null) {
            $usd->line('double3 xformOp:translate = ' . UsdText::vector($shot->placing->position, 9));
            $usd->line('quatf xformOp:orient = ' . self::turn($shot->placing->rotation));
            $usd->line('float3 xformOp:scale = ' . UsdText::vector(array_fill(0, 3, $shot->placing->scale), 9));
            $usd->line(self::order(true));
        }
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
        self::place($usd, $shot);
        $this->looks($usd, $path, [Cord::look()], false);
        foreach ($cords as $cord) {
            $digits = UsdText::digits($cord->mesh->size());
            $frames = static function (callable $say) use ($bake): Generator {
                for ($frame = 1; $frame <= $bake->manifest->frames; $frame++) {
                    yield $frame => $say($frame);
                }
            };
            $this->mesh($usd, $path, UsdText::name($cord->id), $cord->mesh, ['displayName = ' . UsdText::text($cord->name)]);
            $usd->over('float3[] extent', $frames(static fn (int $frame): string => self::extent($cord->placesAt($frame), $digits)));
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

    /** @param int $look of faces, see TriangleMesh */
    private static function material(int $look): string
    {
        return ['outside', 'fresh_faces', 'sides'][$look] ?? 'layer_' . ($look - TriangleMesh::LOOK_LAYER + 1);
    }

    private static function path(Prop $prop): string
    {
        return '/' . self::ROOT . '/props/' . self::named($prop);
    }

    /** @param string $of path of whose look it is */
    private static function materialPath(string $of, int $look): string
    {
        return "{$of}/looks/" . self::material($look);
    }

    /**
     * @param string $of path of whose they are
     * @param list<array{string, array{float, float, float}, float, string|null}> $looks as {@see Looks::of()} has them; pictures as seen from the file
     * @param bool $changes whether the outside turns to another colour
     */
    private function looks(UsdText $usd, string $of, array $looks, bool $changes): void
    {
        $usd->open('Scope', 'looks');
        foreach ($looks as $look => [$name, $colour, $roughness, $face]) {
            $path = self::materialPath($of, $look);
            // A picture stays, as in the other formats: it cannot turn into a colour.
            $from = match (true) {
                $face !== null => "{$path}/picture.outputs:rgb",
                $look === TriangleMesh::LOOK_OUTER && $changes => "{$path}/colour.outputs:result",
                default => null,
            };
            $usd->open('Material', self::material($look), ['displayName = ' . UsdText::text($name)]);
            $usd->line("token outputs:surface.connect = <{$path}/surface.outputs:surface>");
            self::shader($usd, 'surface', 'UsdPreviewSurface', [
                'color3f inputs:diffuseColor' . ($from === null ? ' = ' . UsdText::vector($colour, self::PARTS) : ".connect = <{$from}>"),
                "float inputs:roughness = {$roughness}",
                'token outputs:surface',
            ]);
            if ($face !== null) {
                self::shader($usd, 'picture', 'UsdUVTexture', ["asset inputs:file = @{$face}@", 'token inputs:sourceColorSpace = "sRGB"', 'token inputs:wrapS = "clamp"', 'token inputs:wrapT = "clamp"', "float2 inputs:st.connect = <{$path}/place.outputs:result>", 'float3 outputs:rgb']);
                self::shader($usd, 'place', 'UsdPrimvarReader_float2', ['string inputs:varname = "st"', 'float2 outputs:result']);
            } elseif ($from !== null) {
                self::shader($usd, 'colour', 'UsdPrimvarReader_float3', ['string inputs:varname = "displayColor"', 'float3 outputs:result']);
            }
            $usd->close();
        }
        $usd->close();
    }

    /** @param list<string> $lines */
    private static function shader(UsdText $usd, string $name, string $id, array $lines): void
    {
        $usd->open('Shader', $name);
        $usd->line("uniform token info:id = \"{$id}\"");
        foreach ($lines as $line) {
            $usd->line($line);
        }
        $usd->close();
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
                $usd->line('float3[] extent = ' . self::extent($places, $digits));
                $usd->line('point3f[] points = ' . UsdText::vectors($places, 3, $digits));
                $normals = new BentNormals($mesh);
                $usd->line('normal3f[] primvars:normals = ' . UsdText::vectors($normals->resting(), 3, self::PARTS) . ' (interpolation = "faceVarying")');
                $usd->line('int[] primvars:normals:indices = ' . UsdText::numbers($normals->shared, 0));
                $this->motion($usd, $keys, $digits);
                $this->weighed($usd, $prop, static fn (): Generator => self::singles($keys['weights'] ?? '', 1), 'constant');
                $usd->close();
                $tell();
            }
        }
    }

    /** @param array{translation: string, rotation: string, scale?: string, weights?: string} $keys */
    private function motion(UsdText $usd, array $keys, int $digits): void
    {
        $usd->over('double3 xformOp:translate', self::said(self::singles($keys['translation'], 3), static fn (array $place): string => UsdText::vector($place, $digits)));
        $usd->over('quatf xformOp:orient', self::turns($keys['rotation']));
        if (isset($keys['scale'])) {
            $usd->over('float3 xformOp:scale', self::said(self::singles($keys['scale'], 3), static fn (array $scale): string => UsdText::vector($scale, self::PARTS)));
            $usd->over('token visibility', self::said(self::singles($keys['scale'], 3), static fn (array $scale): string => min([1.0, ...$scale]) > 0.0 ? '"inherited"' : '"invisible"'));
        }
        $usd->line(self::order(isset($keys['scale'])));
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
        $usd->over('float3[] extent', self::said($places(), static fn (array $at): string => self::extent($at, $digits)));
        $usd->over('point3f[] points', self::said($places(), static function (array $at) use ($digits, $tell): string {
            $tell();

            return UsdText::vectors($at, 3, $digits);
        }));
        $usd->over('normal3f[] primvars:normals', self::said($places(), static fn (array $at): string => UsdText::vectors($normals->at($at), 3, self::SHADES)), 'interpolation = "faceVarying"');
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
        $bound = static fn (int $look): string => 'rel material:binding = <' . self::materialPath($of, $look) . '>';
        $usd->open('Mesh', $name, ['prepend apiSchemas = ["MaterialBindingAPI"]', ...$more]);
        // A skin is seen from both sides; of what is closed nobody sees the other one.
        $usd->line('uniform bool doubleSided = 1');
        $usd->line('uniform token subdivisionScheme = "none"');
        $usd->line('int[] faceVertexCounts = ' . UsdText::numbers(array_fill(0, $count, 3), 0));
        $usd->line('int[] faceVertexIndices = ' . UsdText::numbers($mesh->triangles, 0));
        if ($mesh->uvs !== null) {
            $usd->line('texCoord2f[] primvars:st = ' . UsdText::vectors($mesh->uvs, 2, self::PARTS) . ' (interpolation = "faceVarying")');
        }
        if (count($looks) < 2) {
            $usd->line($bound((int) array_key_first($looks)));

            return;
        }
        $usd->line('uniform token subsetFamily:materialBind:familyType = "partition"');
        ksort($looks);
        foreach ($looks as $look => $faces) {
            $usd->open('GeomSubset', self::material($look), ['prepend apiSchemas = ["MaterialBindingAPI"]']);
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
        $usd->over('float[] primvars:weight', self::said($weights(), static fn (array $of): string => UsdText::numbers($of, self::SHADES)), $each);
        $from = Looks::linear($prop->look->string('outer'));
        if (! Looks::changes($prop)) {
            $usd->line('color3f[] primvars:displayColor = ' . UsdText::vectors($from, 3, self::PARTS) . ' (interpolation = "constant")');

            return;
        }
        $way = array_map(static fn (float $a, float $b): float => $b - $a, $from, Looks::linear($prop->look->string('changed')));
        $usd->over('color3f[] primvars:displayColor', self::said($weights(), static function (array $of) use ($from, $way): string {
            $colours = [];
            foreach ($of as $share) {
                array_push($colours, $from[0] + $share * $way[0], $from[1] + $share * $way[1], $from[2] + $share * $way[2]);
            }

            return UsdText::vectors($colours, 3, self::SHADES);
        }), $each);
    }

    private function camera(UsdText $usd, Shot $shot): void
    {
        $camera = $shot->camera;
        if ($camera === null) {
            return;
        }
        $usd->open('Camera', 'camera');
        $usd->line('float2 clippingRange = (0.01, 10000)');
        $usd->line('float horizontalAperture = ' . self::FILM);
        $usd->line('float verticalAperture = ' . UsdText::number(self::FILM / $camera->aspect, self::PARTS));
        $places = $turns = '';
        $lens = [];
        for ($frame = 1; $frame <= $shot->frames; $frame++) {
            $pose = $camera->poseAt($frame);
            $places .= pack('g3', ...array_slice($pose, 0, 3));
            $turns .= pack('g4', ...array_slice($pose, 3, 4));
            $lens[$frame] = UsdText::number(self::FILM / $camera->aspect / (2.0 * tan(0.5 * $camera->heightAt($frame))), self::PARTS);
        }
        $usd->over('float focalLength', $lens);
        $this->motion($usd, ['translation' => $places, 'rotation' => $turns], self::PARTS);
        $usd->close();
    }

    /** With normalize a distant light's intensity is what it gives to what faces it; that of a dome comes from everywhere, and gives pi times as much. */
    private function lights(UsdText $usd, Shot $shot): void
    {
        $frames = range(1, $shot->frames);
        foreach ($shot->lights->on($shot->frames) as $name => $light) {
            $usd->open('DistantLight', $name);
            $usd->line('bool inputs:normalize = 1');
            $usd->line('color3f inputs:color = ' . UsdText::vector(Looks::linear($light->colour), self::SHADES));
            $usd->over('float inputs:intensity', self::numbers($light->strengthAt(...), $shot->frames));
            $usd->over('quatf xformOp:orient', self::turns(implode('', array_map(static fn (int $frame): string => pack('g4', ...$light->rotationAt($frame)), $frames))));
            $usd->line('uniform token[] xformOpOrder = ["xformOp:orient"]');
            $usd->close();
        }
        $lights = $shot->lights;
        $colour = array_map(static fn (float $above, float $below): float => 0.5 * ($above + $below), Looks::linear($lights->skyColour), Looks::linear($lights->groundColour));
        $usd->open('DomeLight', 'sky');
        $usd->line('color3f inputs:color = ' . UsdText::vector($colour, self::SHADES));
        $usd->over('float inputs:intensity', self::numbers(static fn (float $frame): float => $lights->skyAt($frame) / M_PI, $shot->frames));
        $usd->close();
    }

    /**
     * @param callable(float): float $at
     *
     * @return Generator<int, string> by frame
     */
    private static function numbers(callable $at, int $frames): Generator
    {
        for ($frame = 1; $frame <= $frames; $frame++) {
            yield $frame => UsdText::number($at($frame), self::PARTS);
        }
    }

    /** @param bool $sized whether there is a size */
    private static function order(bool $sized): string
    {
        return 'uniform token[] xformOpOrder = ["xformOp:translate", "xformOp:orient"' . ($sized ? ', "xformOp:scale"' : '') . ']';
    }

    /** @param array<int, float> $turn x, y, z, w; USD says w first */
    private static function turn(array $turn): string
    {
        return UsdText::vector([$turn[3], $turn[0], $turn[1], $turn[2]], self::PARTS);
    }

    /** @return Generator<int, string> by frame; each on the side of the one before, so that nobody turns the long way round between them */
    private static function turns(string $bytes): Generator
    {
        $before = [0.0, 0.0, 0.0, 0.0];
        foreach (self::singles($bytes, 4) as $frame => $turn) {
            if ($before[0] * $turn[0] + $before[1] * $turn[1] + $before[2] * $turn[2] + $before[3] * $turn[3] < 0.0) {
                $turn = array_map(static fn (float $part): float => -$part, $turn);
            }
            yield $frame => self::turn($before = $turn);
        }
    }

    /** @return Generator<int, array<int, float|int>> values of a track by frame; none: there is no such track */
    private static function track(Prop $prop, BakeReader $bake, string $kind): Generator
    {
        $track = $bake->manifest->track($prop->id, $kind);
        for ($frame = 1; $track !== null && $frame <= $bake->manifest->frames; $frame++) {
            yield $frame => $bake->track($frame, $track) ?? throw PieceKeys::unbaked($frame);
        }
    }

    /**
     * @param iterable<int, array<int, float|int>> $values by frame
     * @param callable(array<int, float|int>): string $say
     *
     * @return Generator<int, string> by frame
     */
    private static function said(iterable $values, callable $say): Generator
    {
        foreach ($values as $frame => $of) {
            yield $frame => $say($of);
        }
    }

    /**
     * @param int $size how many a frame
     *
     * @return Generator<int, list<float>> by frame
     */
    private static function singles(string $bytes, int $size): Generator
    {
        for ($at = 0, $frame = 1; $at < strlen($bytes); $at += 4 * $size, $frame++) {
            /** @var array<int, float> $values */
            $values = unpack("g{$size}", $bytes, $at);
            yield $frame => array_values($values);
        }
    }

    /** @param array<int, float|int> $places three numbers a vertex */
    private static function extent(array $places, int $digits): string
    {
        $low = [INF, INF, INF];
        $high = [-INF, -INF, -INF];
        foreach ($places as $k => $at) {
            $low[$k % 3] = min($low[$k % 3], $at);
            $high[$k % 3] = max($high[$k % 3], $at);
        }

        return UsdText::vectors([...$low, ...$high], 3, $digits);
    }
}
