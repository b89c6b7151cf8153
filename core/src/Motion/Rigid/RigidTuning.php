<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

/** Every tolerance of the rigid solver, with its unit and reason. None of them is a setting of the artist's. */
final class RigidTuning
{
    /** Stiffness of a contact as a natural frequency, in parts of the substep rate (stiffer would ring). */
    public const CONTACT_STIFFNESS = 0.25;

    /** Highest natural frequency of a contact, Hz. */
    public const CONTACT_HERTZ = 90.0;

    /** Damping ratio of a contact: far above 1, so overlaps are undone without a bounce. */
    public const CONTACT_DAMPING = 10.0;

    /** Highest natural frequency of a joint, Hz, and its damping ratio: drawn together without a swing. */
    public const JOINT_HERTZ = 60.0;
    public const JOINT_DAMPING = 2.0;

    /** What hangs on a joint and touches nothing must be slow for so many times as long: where it turns round, a swing is slow too. */
    public const HANGS_LONGER = 5.0;

    /** Fastest speed at which an overlap is pushed apart, m/s. */
    public const PUSH_SPEED = 2.0;

    /** What presses on a piece changes its speed in a substep by less than this, m/s, unless it is struck: 78 times its weight, at 24 frames a second. Tighter it takes the life out of blows. */
    public const WARMEST = 2.0;

    /** Two pieces approaching slower than this do not bounce, m/s. */
    public const BOUNCE_THRESHOLD = 0.3;

    /** How often the points of a bounce are brought into agreement. */
    public const BOUNCE_SWEEPS = 4;

    /** Contacts are looked for at least this far ahead, in parts of the smaller piece's radius. */
    public const LOOK_AHEAD = 0.06;

    /** An edge pair must beat the best face by this to become the contact, in parts of the smaller radius: faces are steadier. */
    public const FACE_PREFERENCE = 0.004;

    /** Who overlaps less than this along an axis may still pass along it, in parts of the smaller radius. */
    public const PASSING = 0.02;

    /** A ball may be this deep in an edge that it rolls past, in parts of its radius: what lies on the next face is a little in that. */
    public const BALL_PASSING = 0.005;

    /** Siblings that move less than this against each other move as one, in parts of the smaller radius. */
    public const TOGETHER = 1e-9;

    /** A contact is kept as it is while the pair moves less than this against each other, in parts of the smaller radius. */
    public const REUSE_DISTANCE = 0.01;

    /** ... and turns less than this, radians. */
    public const REUSE_ANGLE = 0.01;

    /** What has nearly come to rest is looked at more closely, by this factor for both: it stays as it is then. */
    public const REUSE_AT_REST = 0.2;

    /** Contact points nearer than this to an old one inherit its impulse, in parts of the smaller radius. */
    public const MATCH_DISTANCE = 0.2;

    /** How fast a touching piece loses its spin, 1/s: rolling and rocking die out (common practice, no source). */
    public const ROLLING_RATE = 1.5;

    /** Rolling friction of balls that stand for pieces: the lever of what presses on them, in parts of their radius (a crumb; our choice). */
    public const BALL_ROLLING = 0.1;

    /** A piece is slow while it stays within the settle speed times this long of one place, s. */
    public const WANDER = 0.15;

    /** A slow piece falls asleep after this long, s. */
    public const SLEEP_AFTER = 0.3;

    /** A piece slow for this long is braked, s, so that a heap comes to rest instead of trembling. */
    public const SETTLE_AFTER = 0.15;

    /** How strongly, 1/s. */
    public const SETTLE_RATE = 12.0;

    /** Pieces deeper in each other than this do not fall asleep yet, in parts of the smaller radius ... */
    public const REST_OVERLAP = 0.005;

    /** ... unless they have been slow for this long, s. */
    public const REST_ANYWAY = 0.6;

    /** A sleeping piece is woken by a touch faster than this many times the settle speed. */
    public const WAKE_FACTOR = 4.0;
}
