<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Break\SurfaceSites;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\Easing;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Motion\Trigger;
use YardBreak\Core\Stage\Kind\Carries;
use YardBreak\Core\Stage\Kind\Kinds;
use YardBreak\Core\Weight\Samples;

/**
 * A prop whose pieces stand on another one: each at a place of its own, as the prop stands at the shot's origin, with the
 * surface for a floor. They grow by the weight of the prop they stand on, and go where its surface goes.
 */
final class SetProp implements PosedParts
{
    private const UP = [0.0, 1.0, 0.0];

    /** @var Closure(float): list<float> where the seats are in the world */
    private readonly Closure $carried;

    /** @var (Closure(float): list<float>)|null weights of the seats; null: the prop below has none, all have grown */
    private readonly ?Closure $weights;

    /** @var list<array{float, float, float}> what the surface faces at each seat, in the axes of the prop below */
    private readonly array $normals;

    /** @var list<float>|null weight above which each grows; null: all at a moment */
    private readonly ?array $thresholds;

    /** @var list<array{float, float, float, float}> how each leans and is turned about itself */
    private array $leans = [];

    /** @var list<float> how large each gets */
    private array $sizes = [];

    private readonly Prop $below;

    private readonly ?int $frame;

    private readonly Trigger $trigger;

    /** @throws BadDocument if there is nothing to stand on */
    public function __construct(private readonly Prop $prop, Shot $shot, private readonly BrokenProp $broken, Surfaces $others)
    {
        $settings = $prop->mover->settings;
        // As the shot has it, with all that its own weight sees.
        $below = $settings->string('on') === $prop->id ? null : $shot->prop($settings->string('on'));
        if ($below === null || $below->mover->has('set')) {
            throw $settings->wrong('on', $below === null ? "Nothing is chosen that {$prop->name} is set on." : "{$below->name} is set on another prop itself; nothing can be set on it.");
        }
        $this->below = $below;
        $mesh = $others->ownMesh($below);
        $count = count($broken->pieces);
        [$x, $y, $z] = (new SurfaceSites($mesh))->strew($count, $settings->float('evenness'), $settings->int('seed'));
        // On a very small surface there may be room for fewer: the rest share places.
        $given = max(1, count($x));
        $places = [];
        for ($k = 0; $k < $count; $k++) {
            $places[] = [$x[$k % $given] ?? 0.0, $y[$k % $given] ?? 0.0, $z[$k % $given] ?? 0.0];
        }
        $seats = Samples::of($places);
        $this->normals = (new SurfaceSeats($below, $others))->normals($seats);
        $this->carried = self::carrier($below, $seats, $others);
        $weight = $below->weight->isEmpty() ? null : Weighing::of($below, PropShape::ofProp($below, $mesh, $others));
        $this->weights = $weight === null ? null : static fn (float $frame): array => $weight->evaluate($seats, $frame);
        $timing = new PieceTiming($prop, $broken, $others);
        $this->thresholds = $timing->thresholds($count);
        $this->trigger = $timing->triggerAt($seats);
        $this->frame = Kinds::trigger($prop->trigger->kind)::frame($prop->trigger->settings);
        $this->spread($count);
    }

    /** @return Closure(float): list<float> */
    private static function carrier(Prop $below, Samples $seats, Surfaces $others): Closure
    {
        $kind = Kinds::mover($below->mover->kind);
        if (is_a($kind, Carries::class, true)) {
            return $kind::carrier($below, $seats, $others);
        }

        return static function (float $frame) use ($below, $seats): array {
            $places = [];
            foreach ($seats->x as $k => $x) {
                array_push($places, ...$below->transform->carried([$x, $seats->y[$k], $seats->z[$k]], $frame));
            }

            return $places;
        };
    }

    /** What each piece has of its own. */
    private function spread(int $count): void
    {
        $settings = $this->prop->mover->settings;
        $lean = deg2rad($settings->float('lean'));
        for ($k = 0; $k < $count; $k++) {
            $random = RandomStream::named($settings->int('seed'), 'set', $k);
            $way = 2.0 * M_PI * $random->float();
            $tilt = Quaternion::aboutAxis([cos($way), 0.0, sin($way)], $lean * $random->float());
            $turn = $settings->bool('turned') ? Quaternion::aboutAxis(self::UP, 2.0 * M_PI * $random->float()) : Quaternion::IDENTITY;
            $this->leans[] = Quaternion::multiply($tilt, $turn);
            $this->sizes[] = 1.0 + $settings->float('variety') * $random->between(-1.0, 1.0);
        }
    }

    /** @return list<float> how far each has grown, 0 to 1 */
    public function progress(float $frame): array
    {
        $ease = $this->prop->mover->settings->string('ease');
        if ($this->thresholds === null) {
            $shares = PieceTiming::elapsed($this->trigger, count($this->sizes), $this->frame, (float) $this->prop->mover->settings->int('takes'), $frame);

            return array_map(static fn (float $share): float => Easing::at($ease, $share), $shares);
        }
        $weights = $this->weights === null ? array_fill(0, count($this->sizes), 1.0) : ($this->weights)($frame);

        return array_map(static fn (float $weight, float $threshold): float => Easing::at($ease, ($weight - $threshold) / max(1e-9, 1.0 - $threshold)), $weights, $this->thresholds);
    }

    public function weights(float $frame, array $progress): array
    {
        return $progress;
    }

    /**
     * @param list<float> $progress of each piece
     *
     * @return array{list<float>, list<float>} poses and scales, along each piece's own axes
     */
    public function place(float $frame, array $progress): array
    {
        $places = ($this->carried)($frame);
        $rotation = $this->below->transform->rotationAt($frame);
        $own = $this->prop->transform->rotationAt($frame);
        [$sx, $sy, $sz] = $this->prop->transform->scaleAt($frame);
        $upright = $this->prop->mover->settings->float('upright');
        $poses = $scales = [];
        foreach ($progress as $k => $share) {
            $normal = Quaternion::rotate($rotation, $this->normals[$k]);
            [$x, $y, $z] = [(1.0 - $upright) * $normal[0], (1.0 - $upright) * $normal[1] + $upright, (1.0 - $upright) * $normal[2]];
            $length = sqrt($x * $x + $y * $y + $z * $z);
            // Upright on what faces down there is no way in between.
            $axis = $length > 1e-9 ? [$x / $length, $y / $length, $z / $length] : $normal;
            $turn = Quaternion::multiply(Quaternion::between(self::UP, $axis), $this->leans[$k]);
            $size = $share * $this->sizes[$k];
            [$cx, $cy, $cz] = $this->prop->transform->carried($this->broken->centre($k), $frame);
            $seat = [$places[3 * $k], $places[3 * $k + 1], $places[3 * $k + 2]];
            array_push($poses, ...Quaternion::carried($seat, $turn, [$size * $cx, $size * $cy, $size * $cz]), ...Quaternion::multiply($turn, $own));
            array_push($scales, $size * $sx, $size * $sy, $size * $sz);
        }

        return [$poses, $scales];
    }
}
