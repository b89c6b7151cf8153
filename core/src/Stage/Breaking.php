<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Break\BreakAgain;
use YardBreak\Core\Break\Breaker;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Break\Copies;
use YardBreak\Core\Break\FrontCuts;
use YardBreak\Core\Break\Join;
use YardBreak\Core\Break\Lock;
use YardBreak\Core\Break\Pattern;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Break\SewnPattern;
use YardBreak\Core\Break\SkinPattern;
use YardBreak\Core\Document\Choice;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Kind\Kinds;
use YardBreak\Core\Weight\WeightSource;

/**
 * The pieces of a prop.
 *
 * @implements Stage<BrokenProp>
 */
final class Breaking implements Stage
{
    private readonly PatternBench $bench;

    private readonly Pattern|SkinPattern|Copies|null $pattern;

    private readonly ?WeightFront $front;

    /**
     * @param \Closure(): TriangleMesh $mesh the prepared one
     *
     * @throws BadFile if a picture is missing
     * @throws BreakFailed if something has not been drawn yet
     */
    public function __construct(private readonly Prop $prop, private readonly string $prepared, private readonly \Closure $mesh, Assets $assets, Surfaces $others)
    {
        // There are no pieces yet that it could go by.
        $weight = fn (): WeightSource => Weighing::of($this->prop, PropShape::of(($this->mesh)(), $others));
        $this->bench = new PatternBench(
            $assets,
            $prop->transform->rotationAt(1.0),
            fn (int $frame): WeightDensity => new WeightDensity($weight, $frame, Weighing::inputs($this->prop, $others)),
            function (string $id) use ($others): ?array {
                $other = $this->prop->others[$id] ?? null;

                return $other === null ? null : [$others->hash($other), static fn (): TriangleMesh => $others->ownMesh($other)];
            },
        );
        $this->pattern = $this->pattern($prop->pattern);
        $this->front = self::cutsByFront($prop)
            ? new WeightFront($weight, $prop->trigger->settings->float('threshold'), $prop->time->frames, Weighing::inputs($prop, $others))
            : null;
    }

    /** Whether pieces of a prop are cut where the front of its weight stands. */
    public static function cutsByFront(Prop $prop): bool
    {
        return ($prop->trigger->settings->inForce()['cuts'] ?? false) === true;
    }

    public function name(): string
    {
        return 'break';
    }

    public function version(): int
    {
        return 13;
    }

    public function inputs(): array
    {
        $finer = self::finer($this->prop);

        return [$this->prepared, match (true) {
            $this->pattern === null => ['whole'],
            $this->pattern instanceof SkinPattern, $this->pattern instanceof Copies => [$this->pattern::class, get_object_vars($this->pattern)],
            default => [$this->pattern::class, get_object_vars($this->pattern), serialize($this->breaker())],
        }, ...$finer > 0 ? [$finer] : []];
    }

    public function run(Progress $progress): BrokenProp
    {
        $broken = $this->broken($progress);
        $finer = self::finer($this->prop);

        return $finer > 0 ? $broken->finer($finer) : $broken;
    }

    /** How often each triangle of what bends is drawn as four. */
    private static function finer(Prop $prop): int
    {
        return $prop->mover->settings->has('finer') ? $prop->mover->settings->int('finer') : 0;
    }

    private function broken(Progress $progress): BrokenProp
    {
        $mesh = ($this->mesh)();
        $hash = StageRunner::hash($this);

        return match (true) {
            $this->pattern === null => BrokenProp::whole($hash, $mesh),
            $this->pattern instanceof Copies => BrokenProp::copies($hash, $mesh, $this->pattern),
            $this->pattern instanceof SkinPattern => BrokenProp::skin($hash, $mesh, $this->pattern->flakes($mesh, $progress), $this->pattern->keepsCore(), $this->pattern instanceof SewnPattern),
            default => BrokenProp::of($hash, $this->breaker()->break($mesh, $this->pattern, $progress), $mesh->bounds()),
        };
    }

    public function encode(mixed $result): array
    {
        return $result->encode();
    }

    public function decode(string $bytes): BrokenProp
    {
        return BrokenProp::decode(StageRunner::hash($this), $bytes);
    }

    private function pattern(Choice $choice): Pattern|SkinPattern|Copies|null
    {
        return Kinds::pattern($choice->kind)::make($choice->settings, $this->bench);
    }

    private function breaker(): Breaker
    {
        $edits = $locks = [];
        foreach ($this->prop->edits as $edit) {
            if ($edit->kind === 'join') {
                $edits[] = new Join($edit->at, $edit->to);
                continue;
            }
            $pattern = $this->pattern($edit->with);
            if ($pattern instanceof Pattern) {
                if ($edit->kind === 'lock') {
                    $locks[] = new Lock($edit->at, $pattern);
                } else {
                    $edits[] = new BreakAgain($edit->at, $pattern);
                }
            }
        }
        $finish = $this->prop->break->at('finish');
        if ($this->front !== null) {
            $edits[] = new FrontCuts($this->front, $this->prop->trigger->settings->float('every'));
        }
        $roughness = $finish->float('roughness');
        $fibres = $finish->string('fibres');

        return new Breaker(
            0.01 * $finish->float('smallest'),
            $finish->float('thinnest'),
            $roughness,
            $roughness > 0.0 ? $finish->float('fineness') : 0.0,
            $roughness > 0.0 ? $finish->int('seed') : 0,
            $roughness > 0.0 && $fibres !== 'none' ? PatternBench::axis($fibres) : null,
            $edits,
            $locks,
            $this->prop->mover->has('folds'),
        );
    }
}
