<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Light;

use Closure;
use YardBreak\Core\Force\Forces;
use YardBreak\Core\Force\Pushes;
use YardBreak\Core\Motion\State;

/**
 * Light pieces that do not feel each other: carried by the air, tumbling, laid flat by the floors they reach. Drag grows with
 * the square of the speed through the air, so that a piece that falls through still air nears its falling speed (v = v_t
 * tanh(g t / v_t), any text on drag); it is taken implicitly, so that the lightest piece stays calm at any step.
 */
final class LightWorld
{
    /** On earth, m/s2: what falling speeds are given for. */
    private const EARTH = 9.80665;

    public const HELD = 0;

    public const LOOSE = 1;

    public const RESTING = 2;

    public const GONE = 3;

    /** A piece nearer to a floor than this has landed, m. */
    private const LANDED = 1e-4;

    /** A push along the floor must be so many times as hard as what holds a piece that rests: slopes keep what has come to rest on them. */
    private const STUCK = 1.5;

    /** @var array<int, float> */
    private array $x = [];

    /** @var array<int, float> */
    private array $y = [];

    /** @var array<int, float> */
    private array $z = [];

    /** @var array<int, float> m/s */
    private array $u = [];

    /** @var array<int, float> */
    private array $v = [];

    /** @var array<int, float> */
    private array $w = [];

    /** @var array<int, array{float, float, float, float}> */
    private array $turn = [];

    /** @var array<int, int> */
    private array $state = [];

    /** @var array<int, LightPiece> */
    private array $pieces = [];

    /** @var list<array{array{float, float, float}, float, float}> normal, height, friction */
    private array $planes = [];

    public function __construct(private readonly float $settleSpeed)
    {
    }

    /**
     * @param array{float, float, float} $normal unit
     * @param float $height of the plane where it crosses the y axis, m
     */
    public function addPlane(array $normal, float $height, float $friction): void
    {
        $this->planes[] = [$normal, $normal[1] * $height, $friction];
    }

    public function add(LightPiece $piece): int
    {
        $this->pieces[] = $piece;
        $this->x[] = $this->y[] = $this->z[] = 0.0;
        $this->u[] = $this->v[] = $this->w[] = 0.0;
        $this->turn[] = [0.0, 0.0, 0.0, 1.0];
        $this->state[] = self::HELD;

        return count($this->pieces) - 1;
    }

    public function state(int $piece): int
    {
        return $this->state[$piece];
    }

    /**
     * @param array{float, float, float} $position
     * @param array{float, float, float, float} $rotation
     */
    public function place(int $piece, array $position, array $rotation): void
    {
        [$this->x[$piece], $this->y[$piece], $this->z[$piece]] = $position;
        $this->turn[$piece] = $rotation;
    }

    /**
     * @param array{float, float, float} $velocity m/s
     * @param array{float, float, float} $scale how large it is from now on
     */
    public function letGo(int $piece, array $velocity, array $scale = [1.0, 1.0, 1.0]): void
    {
        $this->resize($piece, $scale);
        [$this->u[$piece], $this->v[$piece], $this->w[$piece]] = $velocity;
        $this->state[$piece] = self::LOOSE;
    }

    /** @param array{float, float, float} $scale of what it was added as */
    public function resize(int $piece, array $scale): void
    {
        if ($scale !== [1.0, 1.0, 1.0]) {
            $this->pieces[$piece] = $this->pieces[$piece]->scaled($scale);
        }
    }

    public function take(int $piece): void
    {
        $this->state[$piece] = self::GONE;
    }

    /** @return array{float, float, float, float, float, float, float} */
    public function pose(int $piece): array
    {
        return [$this->x[$piece], $this->y[$piece], $this->z[$piece], ...$this->turn[$piece]];
    }

    public function speed(int $piece): float
    {
        return $this->state[$piece] === self::LOOSE ? sqrt($this->u[$piece] ** 2 + $this->v[$piece] ** 2 + $this->w[$piece] ** 2) : 0.0;
    }

    /**
     * @param list<int> $group of each piece, as the forces know them
     * @param Closure(): list<float> $weights of all pieces, 0 to 1
     * @param float $frame at which the step begins
     * @param float $dt s
     */
    public function step(Forces $forces, array $group, Closure $weights, float $frame, float $dt): void
    {
        // Nothing but a pull straight down sets going what rests.
        [$gx, $gy, $gz] = $forces->uniform($frame);
        $loose = $forces->uneven()->isEmpty() && $gx === 0.0 && $gy <= 0.0 && $gz === 0.0 ? array_keys($this->state, self::LOOSE, true)
            : array_keys(array_filter($this->state, static fn (int $state): bool => $state === self::LOOSE || $state === self::RESTING));
        if ($loose === []) {
            return;
        }
        $x = $y = $z = $groups = [];
        foreach ($loose as $i) {
            $x[] = $this->x[$i];
            $y[] = $this->y[$i];
            $z[] = $this->z[$i];
            $groups[] = $group[$i];
        }
        $ofThem = static function () use ($weights, $loose): array {
            $all = $weights();

            return array_map(static fn (int $i): float => $all[$i], $loose);
        };
        $pushes = $forces->at($x, $y, $z, $groups, $frame, $dt, $ofThem);
        $this->rouse($loose, $pushes);
        $this->move($loose, $pushes, $dt);
        foreach ($loose as $i) {
            if ($this->state[$i] === self::LOOSE) {
                $this->land($i);
            }
        }
    }

    /**
     * What rests on a floor is set going again by what lifts it, or pushes it along harder than it is held by friction.
     *
     * @param list<int> $loose
     */
    private function rouse(array $loose, Pushes $pushes): void
    {
        foreach ($loose as $n => $i) {
            if ($this->state[$i] !== self::RESTING) {
                continue;
            }
            $a = [$pushes->ax[$n], $pushes->ay[$n], $pushes->az[$n]];
            foreach ($this->planes as [$normal, $offset, $friction]) {
                $height = $normal[0] * $this->x[$i] + $normal[1] * $this->y[$i] + $normal[2] * $this->z[$i] - $offset;
                if ($height > $this->pieces[$i]->thickness + self::LANDED) {
                    continue;
                }
                $up = $normal[0] * $a[0] + $normal[1] * $a[1] + $normal[2] * $a[2];
                $along = sqrt(max(0.0, $a[0] ** 2 + $a[1] ** 2 + $a[2] ** 2 - $up * $up));
                if ($up > 0.0 || $along > -$up * sqrt($friction * $this->pieces[$i]->friction) * self::STUCK) {
                    $this->state[$i] = self::LOOSE;
                }
                break;
            }
        }
    }

    /** @param list<int> $loose those among them that rest are left alone */
    private function move(array $loose, Pushes $pushes, float $dt): void
    {
        [$ax, $ay, $az] = [$pushes->ax, $pushes->ay, $pushes->az];
        [$u, $v, $w] = [$pushes->u, $pushes->v, $pushes->w];
        [$linear, $square] = [$pushes->linear, $pushes->square];
        [$px, $py, $pz, $pu, $pv, $pw, $turn, $pieces] = [$this->x, $this->y, $this->z, $this->u, $this->v, $this->w, $this->turn, $this->pieces];
        foreach ($loose as $n => $i) {
            if ($this->state[$i] !== self::LOOSE) {
                continue;
            }
            $piece = $pieces[$i];
            // What lies on a floor lies below the wind.
            $shelter = $this->lies($i) ? 0.0 : 1.0;
            $wu = $u[$n] * $shelter;
            $wv = $v[$n] * $shelter;
            $ww = $w[$n] * $shelter;
            $ru = $wu - $pu[$i];
            $rv = $wv - $pv[$i];
            $rw = $ww - $pw[$i];
            $through = sqrt($ru * $ru + $rv * $rv + $rw * $rw);
            $q = $dt * (self::EARTH / ($piece->fallSpeed * $piece->fallSpeed) * $through + $linear[$n] + $square[$n] * $through);
            $s = 1.0 / (1.0 + $q);
            $pu[$i] = ($pu[$i] + $q * $wu + $dt * $ax[$n]) * $s;
            $pv[$i] = ($pv[$i] + $q * $wv + $dt * $ay[$n]) * $s;
            $pw[$i] = ($pw[$i] + $q * $ww + $dt * $az[$n]) * $s;
            $px[$i] += $dt * $pu[$i];
            $py[$i] += $dt * $pv[$i];
            $pz[$i] += $dt * $pw[$i];
            // The air turns it, the more the faster it goes through it.
            $half = 0.5 * $dt * $piece->tumble * min(1.0, $through / $piece->fallSpeed) * $shelter;
            if ($half !== 0.0) {
                [$sx, $sy, $sz] = $piece->spinAxis;
                $sine = sin($half);
                $c = cos($half);
                $sx *= $sine;
                $sy *= $sine;
                $sz *= $sine;
                [$qx, $qy, $qz, $qw] = $turn[$i];
                $tx = $c * $qx + $sx * $qw + $sy * $qz - $sz * $qy;
                $ty = $c * $qy - $sx * $qz + $sy * $qw + $sz * $qx;
                $tz = $c * $qz + $sx * $qy - $sy * $qx + $sz * $qw;
                $tw = $c * $qw - $sx * $qx - $sy * $qy - $sz * $qz;
                $length = 1.0 / sqrt($tx * $tx + $ty * $ty + $tz * $tz + $tw * $tw);
                $turn[$i] = [$tx * $length, $ty * $length, $tz * $length, $tw * $length];
            }
        }
        [$this->x, $this->y, $this->z, $this->u, $this->v, $this->w, $this->turn] = [$px, $py, $pz, $pu, $pv, $pw, $turn];
    }

    private function lies(int $i): bool
    {
        $thickness = $this->pieces[$i]->thickness + self::LANDED;
        foreach ($this->planes as [$n, $height]) {
            if ($n[0] * $this->x[$i] + $n[1] * $this->y[$i] + $n[2] * $this->z[$i] - $height <= $thickness) {
                return true;
            }
        }

        return false;
    }

    /** Floors lay a piece flat as it comes near, stop it, and let it slide to rest. */
    private function land(int $i): void
    {
        $piece = $this->pieces[$i];
        foreach ($this->planes as [$n, $offset, $friction]) {
            $height = $n[0] * $this->x[$i] + $n[1] * $this->y[$i] + $n[2] * $this->z[$i] - $offset;
            if ($height >= $piece->radius) {
                continue;
            }
            $flat = max(0.0, min(1.0, ($height - $piece->thickness) / max(1e-9, $piece->radius - $piece->thickness)));
            $this->turn[$i] = Leaning::atMost($this->turn[$i], $piece->axis, $n, $flat);
            $into = $n[0] * $this->u[$i] + $n[1] * $this->v[$i] + $n[2] * $this->w[$i];
            if ($height > $piece->thickness || $into > 0.0) {
                continue;
            }
            $up = $piece->thickness - $height;
            $this->x[$i] += $up * $n[0];
            $this->y[$i] += $up * $n[1];
            $this->z[$i] += $up * $n[2];
            $slideU = $this->u[$i] - $into * $n[0];
            $slideV = $this->v[$i] - $into * $n[1];
            $slideW = $this->w[$i] - $into * $n[2];
            $slide = sqrt($slideU * $slideU + $slideV * $slideV + $slideW * $slideW);
            // Coulomb: the push that stopped it, times the friction, is taken from the slide. Two surfaces meet at the
            // geometric mean of theirs, as hard pieces do.
            $keep = $slide > 0.0 ? max(0.0, 1.0 + sqrt($friction * $piece->friction) * $into / $slide) : 0.0;
            [$this->u[$i], $this->v[$i], $this->w[$i]] = [$keep * $slideU, $keep * $slideV, $keep * $slideW];
            if ($keep * $slide < $this->settleSpeed) {
                [$this->u[$i], $this->v[$i], $this->w[$i]] = [0.0, 0.0, 0.0];
                $this->state[$i] = self::RESTING;
            }
        }
    }

    /** @return array<string, mixed> */
    public function save(): array
    {
        return [
            'x' => $this->x, 'y' => $this->y, 'z' => $this->z, 'u' => $this->u, 'v' => $this->v, 'w' => $this->w,
            'turn' => $this->turn === [] ? [] : array_merge(...$this->turn), 'state' => $this->state,
        ];
    }

    public function restore(State $saved): void
    {
        [$this->x, $this->y, $this->z] = [$saved->floats('x'), $saved->floats('y'), $saved->floats('z')];
        [$this->u, $this->v, $this->w] = [$saved->floats('u'), $saved->floats('v'), $saved->floats('w')];
        $this->state = $saved->ints('state');
        $this->turn = [];
        foreach (array_chunk($saved->floats('turn'), 4) as [$x, $y, $z, $w]) {
            $this->turn[] = [$x, $y, $z, $w];
        }
    }
}
