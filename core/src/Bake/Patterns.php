<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Art\Picture;
use YardBreak\Core\Break\BreachPattern;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Break\CellularPattern;
use YardBreak\Core\Break\CoursesPattern;
use YardBreak\Core\Break\Cutter;
use YardBreak\Core\Break\DrawnPattern;
use YardBreak\Core\Break\FacesPattern;
use YardBreak\Core\Break\FlakesPattern;
use YardBreak\Core\Break\GrainPattern;
use YardBreak\Core\Break\HalvingPattern;
use YardBreak\Core\Break\Line;
use YardBreak\Core\Break\Pattern;
use YardBreak\Core\Break\PictureDensity;
use YardBreak\Core\Break\PicturePattern;
use YardBreak\Core\Break\SkinPattern;
use YardBreak\Core\Break\ToneMap;
use YardBreak\Core\Break\WebPattern;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Shot\PatternSettings;

/** The pattern that the settings of a document ask for. A pattern holds what matters to it and nothing else. */
final class Patterns
{
    private const AXES = ['x' => 0, 'y' => 1, 'z' => 2];

    /** @var array<string, ToneMap> */
    private array $tones = [];

    public function __construct(private readonly Assets $assets)
    {
    }

    /**
     * @param array{float, float, float, float} $turn how the prop stands at frame 1
     * @param (callable(int): WeightDensity)|null $finer finer where the prop's weight is high at a frame; null: it has none
     *
     * @return Pattern|SkinPattern|null null: the prop stays whole
     *
     * @throws BadFile if a picture is missing
     */
    public function of(PatternSettings $s, array $turn = Quaternion::IDENTITY, ?callable $finer = null): Pattern|SkinPattern|null
    {
        $axis = self::unit($s->axis);

        return match ($s->pattern) {
            'cellular' => new CellularPattern(
                $s->pieces,
                $s->seed,
                $s->evenness,
                $s->variety,
                $s->clustering > 0.0 ? [$s->at, ...$s->places] : [],
                $s->clustering > 0.0 ? $s->reach : 0.0,
                $s->clustering,
                match ($s->density) {
                    'dark', 'bright' => new PictureDensity($this->tones($s->picture), self::AXES[$s->facing], $s->density === 'dark'),
                    'weight' => $finer === null ? null : $finer($s->densityAt),
                    default => null,
                },
            ),
            'web' => new WebPattern($s->seed, [$s->at, ...$s->places], $s->axis, $s->rays, $s->rings, $s->radius, $s->growth, $s->jitter, $s->rest === 'whole'),
            'courses' => new CoursesPattern(
                $s->bond,
                $s->seed,
                $s->aligned === 'world' ? Quaternion::rotate(Quaternion::conjugate($turn), $axis) : $s->axis,
                $s->length,
                $s->height,
                $s->bond === CoursesPattern::BRICK ? $s->depth : 0.0,
                $s->offset,
                $s->bond === CoursesPattern::HEXAGON ? 0.0 : $s->joint,
                $s->variety,
            ),
            'halving' => new HalvingPattern($s->count > 0 ? 0 : $s->rounds, $s->count, $s->seed, $s->wander, $s->wander > 0.0 ? $s->jagged : 0.0),
            'grain' => count($s->places) > 1
                ? new GrainPattern($s->pieces, $s->seed, $s->evenness, [0.0, 1.0, 0.0], $s->slenderness, $s->raggedness, $s->places)
                : new GrainPattern($s->pieces, $s->seed, $s->evenness, $axis, $s->slenderness, $s->raggedness),
            'breach' => self::breach($s),
            'drawn' => new DrawnPattern(array_map(static fn (array $line): Line => new Line($line[0], $line[1]), $s->lines), self::AXES[$s->facing]),
            'picture' => new PicturePattern($this->tones($s->picture), $s->tones, 0.01 * $s->speck, self::AXES[$s->facing]),
            'flakes' => new FlakesPattern($s->flakes, $s->seed, $s->evenness, $s->thickness, $s->lift),
            'faces' => new FacesPattern($s->seed, $s->cuts, $s->split, $s->thickness, $s->lift),
            default => null,
        };
    }

    public static function breach(PatternSettings $s): BreachPattern
    {
        return new BreachPattern(
            $s->seed,
            self::cutters($s),
            $s->ragged,
            $s->crumb,
            $s->fragments,
            $s->bands,
            $s->bands > 0 ? $s->band : 0.0,
            $s->splinters === 'none' ? null : [self::direction($s->splinters), $s->slenderness],
        );
    }

    /** @return list<Cutter> */
    private static function cutters(PatternSettings $s): array
    {
        if ($s->shape !== Cutter::DRAWN) {
            // A ball has no axis.
            $axis = $s->shape === Cutter::BALL ? [0.0, 1.0, 0.0] : $s->axis;

            return array_map(static fn (array $at): Cutter => Cutter::about($s->shape, $at, $axis, $s->radius), [$s->at, ...$s->places]);
        }
        $loops = array_values(array_filter($s->lines, static fn (array $line): bool => count($line[0]) > 2));
        if ($loops === []) {
            throw new BreakFailed('No opening has been drawn yet. Draw its outline on the prop, or choose another shape.');
        }

        return array_map(static fn (array $line): Cutter => Cutter::drawn($line[0], self::AXES[$s->facing]), $loops);
    }

    /** @return array{float, float, float} */
    private static function direction(string $axis): array
    {
        return [$axis === 'x' ? 1.0 : 0.0, $axis === 'y' ? 1.0 : 0.0, $axis === 'z' ? 1.0 : 0.0];
    }

    private function tones(string $asset): ToneMap
    {
        if (isset($this->tones[$asset])) {
            return $this->tones[$asset];
        }
        $path = $asset === '' ? null : $this->assets->path($asset);
        if ($path === null) {
            throw new BadFile($asset === '' ? 'No picture has been brought in yet. Choose a PNG or JPEG.' : 'The picture is missing from the store. Bring it in again.');
        }
        $picture = Picture::read((string) file_get_contents($path));
        $tones = [];
        for ($y = 0; $y < $picture->height; $y++) {
            for ($x = 0; $x < $picture->width; $x++) {
                // What is clear counts as white.
                $alpha = $picture->alpha($x, $y);
                $tones[] = $alpha * $picture->tone($x, $y) + 1.0 - $alpha;
            }
        }

        return $this->tones[$asset] = new ToneMap($asset, $picture->width, $picture->height, $tones);
    }

    /**
     * @param array{float, float, float} $axis
     *
     * @return array{float, float, float} upright if it has no length
     */
    private static function unit(array $axis): array
    {
        $length = sqrt($axis[0] ** 2 + $axis[1] ** 2 + $axis[2] ** 2);

        return $length > 1e-9 ? [$axis[0] / $length, $axis[1] / $length, $axis[2] / $length] : [0.0, 1.0, 0.0];
    }
}
