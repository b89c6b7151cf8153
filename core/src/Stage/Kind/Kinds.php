<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind;

use LogicException;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Stage\PlayedRest;
use YardBreak\Core\Stage\Surfaces;

/**
 * Every kind of thing that a document can name, by registry: the one place in core that names kinds. Its settings and traits
 * are in core/schema/<registry>/<kind>.json.
 */
final class Kinds
{
    /** @var array<string, array<string, class-string>> */
    private const STANDARD = [
        'source' => [
            'file' => Source\MeshFile::class,
            'art' => Source\FlatArt::class,
            'lettering' => Source\Letters::class,
            'box' => Source\Box::class,
            'ball' => Source\Ball::class,
            'cylinder' => Source\Cylinder::class,
            'cone' => Source\Cone::class,
            'pyramid' => Source\Pyramid::class,
            'torus' => Source\Torus::class,
            'lathe' => Source\LatheProfile::class,
            'sheet' => Source\Sheet::class,
            'jar' => Source\Jar::class,
        ],
        'pattern' => [
            'whole' => Pattern\Whole::class,
            'cellular' => Pattern\Cellular::class,
            'web' => Pattern\Web::class,
            'courses' => Pattern\Courses::class,
            'halving' => Pattern\Halving::class,
            'grain' => Pattern\Grain::class,
            'breach' => Pattern\Breach::class,
            'drawn' => Pattern\Drawn::class,
            'picture' => Pattern\ByPicture::class,
            'flakes' => Pattern\Flakes::class,
            'faces' => Pattern\EveryFace::class,
            'patches' => Pattern\Patches::class,
            'bits' => Pattern\Bits::class,
            'parts' => Pattern\ItsParts::class,
            'copies' => Pattern\SameAgain::class,
        ],
        'weight' => [
            'sweep' => Weight\FrontSweep::class,
            'blow' => Weight\FromTheBlow::class,
            'rim' => Weight\NearTheRim::class,
            'zone' => Weight\InAZone::class,
            'reach' => Weight\NearProps::class,
            'ring' => Weight\GrowingRing::class,
            'spread' => Weight\OverTheSurface::class,
            'bands' => Weight\InBands::class,
            'facing' => Weight\FacingAWay::class,
            'picked' => Weight\PickedPieces::class,
            'noise' => Weight\Patches::class,
            'picture' => Weight\FromAPicture::class,
            'brush' => Weight\ByBrush::class,
            'other' => Weight\AnotherWeight::class,
        ],
        'trigger' => [
            'contact' => Trigger\OnContact::class,
            'frame' => Trigger\AtFrame::class,
            'cue' => Trigger\AtCue::class,
            'weight' => Trigger\ByWeight::class,
            'never' => Trigger\NeverLetsGo::class,
        ],
        'mover' => [
            'rigid' => Mover\HardPieces::class,
            'light' => Mover\LightPieces::class,
            'staged' => Mover\StagedPieces::class,
            'swell' => Mover\SwellingSurface::class,
            'morph' => Mover\ChangingShape::class,
            'set' => Mover\SetOnASurface::class,
            'played' => Mover\AsInItsFile::class,
            'cloth' => Mover\ClothSheets::class,
            'soft' => Mover\SoftBodies::class,
        ],
        'moment' => [
            'hand' => Moment\ByHand::class,
            'touch' => Moment\WhenTheyTouch::class,
            'level' => Moment\WhenAWeightIsSoHigh::class,
            'baked' => Moment\AsBaked::class,
        ],
        'force' => [
            'gravity' => Force\EvenGravity::class,
            'wind' => Force\TurbulentWind::class,
            'turbulence' => Force\Churning::class,
            'pull' => Force\DrawnTo::class,
            'swirl' => Force\TurningAbout::class,
            'blast' => Force\OnceOutward::class,
            'stream' => Force\AlongALine::class,
            'drag' => Force\SlowingAir::class,
        ],
        'joint' => [
            'rope' => Joint\ARope::class,
            'spring' => Joint\ASpring::class,
            'hinge' => Joint\AHinge::class,
            'fastening' => Joint\AFastening::class,
        ],
    ];

    /** @var array<string, array<string, class-string>> */
    private static array $more = [];

    /** @return class-string<SourceKind> */
    public static function source(string $kind): string
    {
        return self::find('source', $kind, SourceKind::class);
    }

    /** @return class-string<PatternKind> */
    public static function pattern(string $kind): string
    {
        return self::find('pattern', $kind, PatternKind::class);
    }

    /** @return class-string<WeightKind> */
    public static function weight(string $kind): string
    {
        return self::find('weight', $kind, WeightKind::class);
    }

    /** @return class-string<TriggerKind> */
    public static function trigger(string $kind): string
    {
        return self::find('trigger', $kind, TriggerKind::class);
    }

    /** @return class-string<MoverKind> */
    public static function mover(string $kind): string
    {
        return self::find('mover', $kind, MoverKind::class);
    }

    /** @return class-string<MoverKind> what moves a prop: the way that it chose, or the hard pieces that its own become */
    public static function moverOf(Prop $prop): string
    {
        $mover = self::mover($prop->mover->kind);

        return is_a($mover, MovesHard::class, true) && $mover::isHard($prop->mover->settings) ? Mover\HardPieces::class : $mover;
    }

    /** @return class-string<MovesHard> how a prop is in the world of hard pieces */
    public static function hard(Prop $prop): string
    {
        return self::find('mover', $prop->mover->kind, MovesHard::class);
    }

    /** @return list<mixed> what of others decides how a prop moves, beside what its weights see of them, and how it plays its file */
    public static function goingBy(Prop $prop, Surfaces $surfaces): array
    {
        $mover = self::mover($prop->mover->kind);

        return [...is_a($mover, GoesByOthers::class, true) ? $mover::others($prop, $surfaces) : [], ...$prop->plays() ? [PlayedRest::VERSION, $prop->played->inForce()] : []];
    }

    /** @return class-string<ForceKind> */
    public static function force(string $kind): string
    {
        return self::find('force', $kind, ForceKind::class);
    }

    /** @return class-string<JointKind> */
    public static function joint(string $kind): string
    {
        return self::find('joint', $kind, JointKind::class);
    }

    /** @return class-string<MomentKind> */
    public static function moment(string $kind): string
    {
        return self::find('moment', $kind, MomentKind::class);
    }

    /** @return list<string> the movers in the order in which they step */
    public static function movers(): array
    {
        return self::names()['mover'] ?? [];
    }

    /** @return array<string, list<string>> the kinds of each registry */
    public static function names(): array
    {
        $names = [];
        foreach ([self::STANDARD, self::$more] as $registries) {
            foreach ($registries as $registry => $kinds) {
                $names[$registry] = [...$names[$registry] ?? [], ...array_keys($kinds)];
            }
        }

        return $names;
    }

    /**
     * Registers more kinds for as long as the work takes.
     *
     * @template T
     *
     * @param array<string, array<string, class-string>> $more by registry and kind
     * @param callable(): T $work
     *
     * @return T
     */
    public static function with(array $more, callable $work): mixed
    {
        $before = self::$more;
        foreach ($more as $registry => $kinds) {
            self::$more[$registry] = $kinds + (self::$more[$registry] ?? []);
        }
        try {
            return $work();
        } finally {
            self::$more = $before;
        }
    }

    /**
     * @template K of object
     *
     * @param class-string<K> $interface
     *
     * @return class-string<K>
     */
    private static function find(string $registry, string $kind, string $interface): string
    {
        $class = self::$more[$registry][$kind] ?? self::STANDARD[$registry][$kind] ?? null;

        return $class !== null && is_a($class, $interface, true) ? $class : throw new LogicException("No {$registry} “{$kind}” is registered.");
    }
}
