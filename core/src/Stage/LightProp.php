<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Light\Cover;
use YardBreak\Core\Motion\Light\LightBodies;
use YardBreak\Core\Motion\Light\LightPiece;
use YardBreak\Core\Motion\Light\LightWorld;
use YardBreak\Core\Motion\State;

/** A prop of light pieces: they ride on it until they let go, drift, and are gone at the end of their life. */
final class LightProp
{
    /** Friction of what sticks, for others that touch it. */
    private const STICKY = 1.0;

    /** Number of its first piece in the world. */
    private readonly int $first;

    /** @var list<float> frames each piece lives after letting go; INF: it stays */
    private array $life = [];

    /** @var array<int, float> frame at which each let go; INF: it has not */
    private array $since = [];

    private readonly float $fade;

    private readonly PieceTiming $timing;

    private readonly StartMotion $start;

    /** What they come off; null: they are all there is of the prop. */
    private readonly ?LightCore $core;

    /** Null: what is held stands as it does at rest. */
    private readonly ?PlayedPieces $played;

    private ?HeldFlakes $held = null;

    private ?DrivenPiece $collider = null;

    /** @param int $number among the props that are light */
    public function __construct(private readonly Prop $prop, private readonly BrokenProp $broken, private readonly LightWorld $world, private readonly float $fps, private readonly int $number, Surfaces $others)
    {
        $settings = $prop->mover->settings;
        $this->fade = (float) $settings->int('fade');
        $this->timing = new PieceTiming($prop, $broken, $others);
        $this->played = PlayedPieces::of($prop, $broken, $others);
        $this->start = new StartMotion($prop, $broken, $others, $settings->int('seed'));
        $variety = $settings->float('variety');
        $lasts = $settings->int('life');
        $first = null;
        foreach ($broken->pieces as $k => $mesh) {
            $random = RandomStream::named($settings->int('seed'), 'light', $k);
            $share = static fn (): float => 1.0 + $variety * $random->between(-1.0, 1.0);
            $axis = LightPiece::across($broken->mass[$k]);
            [$radius, $thickness] = LightPiece::reach($mesh, $broken->centre($k), $axis);
            $number = $world->add(new LightPiece(
                $radius,
                $thickness,
                $axis,
                $share() * $settings->float('fallSpeed'),
                $share() * deg2rad($settings->float('tumble')),
                $random->direction(),
                $settings->float('friction'),
                $settings->float('restitution'),
                $settings->bool('sticks'),
                $settings->bool('meets'),
                $settings->float('exposure'),
            ));
            $first ??= $number;
            $this->life[] = $lasts > 0 ? $share() * $lasts : INF;
            $this->since[] = INF;
        }
        $this->first = $first ?? 0;
        $this->core = $broken->hasCore ? new LightCore($prop->transform, $broken->centre(0), PlayedPieces::of($prop, $broken, $others, 1)) : null;
    }

    /** A step begins. */
    public function setOut(float $from, float $to): void
    {
        $this->core?->setOut($from, $to);
        $this->held?->grow(max($this->prop->transform->scaleAt($from)));
    }

    /** @param float $share of the step that has gone by */
    public function goOn(float $share): void
    {
        $this->core?->goOn($share);
    }

    /** What its pieces come off, as all meet it; null: nothing is left when they are gone. */
    public function collider(): ?DrivenPiece
    {
        if ($this->core !== null && $this->collider === null) {
            $settings = $this->prop->mover->settings;
            $sticks = $settings->bool('sticks');
            $solid = RigidPieces::of($this->prop, BrokenProp::whole($this->broken->hash, $this->broken->outside()), 1.0, false);
            $this->collider = new DrivenPiece("{$this->prop->id}/core", $this->core, 0, $solid, $this->number, $sticks ? self::STICKY : $settings->float('friction'), $sticks ? 0.0 : $settings->float('restitution'));
            $this->held = $settings->bool('hidden') ? null : new HeldFlakes($this->broken, static fn (): SurfaceTree => $solid->surface(0));
            $this->held?->grow(max($this->prop->transform->scaleAt($this->core->step()[0])));
            foreach ($this->since as $k => $since) {
                if ($since !== INF) {
                    $this->held?->goes($k);
                }
            }
        }

        return $this->collider;
    }

    /** What has not let go lies over that. */
    public function cover(): ?Cover
    {
        return $this->held;
    }

    public function count(): int
    {
        return count($this->since);
    }

    /** What is still held stands where the prop does; what is due lets go; what has lived its life is gone. */
    public function bring(float $frame): void
    {
        $pose = $this->poseAt($frame);
        $held = [];
        foreach ($this->since as $k => $since) {
            if ($since === INF) {
                $this->world->place($this->first + $k, ...$this->home($k, $frame, $pose));
                if ($k > 0 || ! $this->broken->hasCore) {
                    $held[] = $k;
                }
            } elseif ($frame - $since >= $this->life[$k]) {
                $this->world->take($this->first + $k);
            }
        }
        $due = $this->timing->due($frame, $held);
        $before = $due === [] ? $pose : $this->poseAt($frame - 1.0);
        foreach ($due as $k) {
            $this->since[$k] = $frame;
            $this->held?->goes($k);
            $this->world->letGo($this->first + $k, $this->startOf($k, $this->home($k, $frame - 1.0, $before)[0], ...$this->home($k, $frame, $pose)), $pose[2]);
        }
    }

    /** @return array{array{float, float, float}, array{float, float, float, float}, array{float, float, float}} position, rotation and scale of the prop */
    private function poseAt(float $frame): array
    {
        $transform = $this->prop->transform;

        return [$transform->positionAt($frame), $transform->rotationAt($frame), $transform->scaleAt($frame)];
    }

    /**
     * @param array{array{float, float, float}, array{float, float, float, float}, array{float, float, float}} $pose of the prop
     *
     * @return array{array{float, float, float}, array{float, float, float, float}} where a piece is while it is held, m, and how it is turned
     */
    private function home(int $piece, float $frame, array $pose): array
    {
        [$position, $turn, [$sx, $sy, $sz]] = $pose;
        [[$x, $y, $z], $ride] = $this->played?->at($frame)[$piece] ?? [$this->broken->centre($piece), null];

        return [Quaternion::carried($position, $turn, [$sx * $x, $sy * $y, $sz * $z]), $ride === null ? $turn : Quaternion::multiply($turn, $ride)];
    }

    /**
     * @param array{float, float, float} $before where it was a frame before, m
     * @param array{float, float, float} $now
     * @param array{float, float, float, float} $turn now
     *
     * @return array{float, float, float} speed of the prop where the piece is, and what it gets of its own, m/s
     */
    private function startOf(int $piece, array $before, array $now, array $turn): array
    {
        [$ox, $oy, $oz] = $this->start->velocity($piece, $turn);
        [$sx, $sy, $sz] = $this->prop->mover->settings->vector('velocity');

        return [
            $this->fps * ($now[0] - $before[0]) + $ox + $sx,
            $this->fps * ($now[1] - $before[1]) + $oy + $sy,
            $this->fps * ($now[2] - $before[2]) + $oz + $sz,
        ];
    }

    /** @return list<float> how far what goes by the weight acts on each piece, 0 to 1 */
    public function felt(float $frame): array
    {
        return $this->timing->felt($frame);
    }

    /** @return list<float> three numbers a piece: how large it is; what has let go keeps its size */
    public function scales(float $frame): array
    {
        $scales = [];
        foreach ($this->since as $since) {
            array_push($scales, ...$this->prop->transform->scaleAt(min($since, $frame)));
        }

        return $scales;
    }

    /** @return array{list<float>, list<float>, list<float>, list<int>, int, int} poses, weights, lives, flags; how many have let go, and move */
    public function write(float $frame): array
    {
        $progress = $lives = $flags = [];
        $released = 0;
        $fade = $this->fade;
        // What its pieces come off is seen from the first.
        $held = array_fill(0, $this->count(), $this->prop->mover->settings->bool('hidden') ? 0.0 : INF);
        if ($this->broken->hasCore && $held !== []) {
            $held[0] = INF;
        }
        $life = $this->life;
        $states = $this->world->states($this->first, $this->count());
        foreach ($this->since as $k => $since) {
            $loose = $since !== INF;
            $progress[] = $loose ? 1.0 : 0.0;
            $left = $loose ? $life[$k] - ($frame - $since) : $held[$k];
            $lives[] = $left <= 0.0 ? 0.0 : ($fade > 0.0 && $left < $fade ? $left / $fade : 1.0);
            $flags[] = ($loose ? Frame::RELEASED : 0) | ($states[$k] >= LightBodies::RESTING ? Frame::ASLEEP : 0);
            $released += $loose ? 1 : 0;
        }

        return [$this->world->poses($this->first, $this->count()), $this->timing->shown($frame, $progress), $lives, $flags, $released, $this->world->moving($this->first, $this->count())];
    }

    /** @return array<string, mixed> */
    public function save(): array
    {
        // What has not let go has no frame.
        return ['since' => array_map(static fn (float $since): float => $since === INF ? -1.0 : $since, $this->since)];
    }

    public function restore(State $saved): void
    {
        $this->since = array_map(static fn (float $since): float => $since < 0.0 ? INF : $since, $saved->floats('since'));
        foreach ($this->since as $k => $since) {
            if ($since !== INF) {
                $this->held?->goes($k);
                $this->world->resize($this->first + $k, $this->prop->transform->scaleAt($since));
            }
        }
    }
}
