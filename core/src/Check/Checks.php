<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Refusal;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\SourceMesh;

/** Why would nothing move, or not as meant? Looked at before a bake, in an artist's words. */
final class Checks
{
    /** Triangles whose meshes are held on to at once; a million take about a gigabyte. */
    private const HELD = 400_000;

    /** @var list<class-string<Check>> */
    private const ALL = [
        EmptyShot::class,
        UnusableMesh::class,
        OddSize::class,
        FarAway::class,
        OpenMesh::class,
        ClothMesh::class,
        CoarseForPieces::class,
        FineSurface::class,
        TooManyHardPieces::class,
        NothingDrawn::class,
        NoPicture::class,
        LateRelease::class,
        Front::class,
        Near::class,
        Spreading::class,
        CoarseEdge::class,
        Threshold::class,
        Inverted::class,
        OutsideTheShot::class,
        IdleCue::class,
        NeverFound::class,
        FlatDensity::class,
        FrontUnknown::class,
        NothingTouches::class,
        NotFelt::class,
        BelowTheFloor::class,
        InsideAnother::class,
        InOnePlace::class,
        NothingBelow::class,
        NothingGlued::class,
        NothingMoves::class,
        IdlePreRoll::class,
        NothingActs::class,
        StillOnItsPath::class,
        LooseJoint::class,
        LooseFastening::class,
        NeverFalls::class,
        OtherShape::class,
        NotPlayed::class,
        IdleAir::class,
        IdleForce::class,
    ];

    /**
     * @return list<Finding> the gravest first
     *
     * @throws BadDocument if a setting contradicts another
     */
    public static function of(Shot $shot, Pipeline $pipeline): array
    {
        $findings = [];
        $held = self::held($shot, $pipeline);
        foreach (self::ALL as $check) {
            array_push($findings, ...(new $check())->findings($shot, $pipeline));
        }
        unset($held);
        usort($findings, static fn (Finding $a, Finding $b): int => ($a->severity === 'stop' ? 0 : 1) <=> ($b->severity === 'stop' ? 0 : 1));

        return $findings;
    }

    /**
     * Held on to while checks look, so that each is read once; of a shot of very large ones only the first, as memory allows.
     *
     * @return list<SourceMesh>
     */
    private static function held(Shot $shot, Pipeline $pipeline): array
    {
        $held = [];
        $triangles = 0;
        foreach ($shot->props as $prop) {
            if ($triangles > self::HELD) {
                break;
            }
            try {
                $held[] = $source = $pipeline->source($prop);
                $triangles += $source->mesh->triangleCount();
            } catch (Refusal) {
                // What has none is found by the checks.
            }
        }

        return $held;
    }
}
