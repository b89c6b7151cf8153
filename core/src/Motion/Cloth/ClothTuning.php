<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

/** Every number that decides how cloth is solved, measured on sheets of 10,000 vertices. */
final class ClothTuning
{
    /** Cloth takes each second of the substeps that all share: ten to twenty a frame hold it, more cost more ... */
    public const EVERY = 2;

    /** ... but all of them where it comes farther in one than this share of what its layers keep between them ... */
    private const TUNNELS = 0.5;

    /** ... or at more than this share of that speed at something else, whose edges come through between its own ... */
    public const TOUCHES = 0.25;

    /** ... which what is coarse is taken never to do, as nothing goes faster than this, m/s. */
    private const FAST = 3.0;

    /** Spacing of the coarse levels, in edges, the finest first. Without them a pull needs a substep an edge to get through. */
    public const LEVELS = [3.0, 9.0, 27.0];

    /** At the end of a frame no edge may be longer than at rest by more than this share of it, however stiff the fabric. */
    public const LIMIT = 0.03;

    /** What gives more may be longer by this many times what it gives under 100 N for each metre of width. */
    public const LIMIT_GIVES = 4.0;

    /** Rounds of that. */
    public const LIMIT_ROUNDS = 5;

    /** Turns in which what is still far too long is taken back, and what came through thereby drawn back. */
    public const LIMIT_TURNS = 3;

    /** Turns at a frame's end in which what sharp edges have come through is drawn out of them, and put out of floors. */
    public const CLEAR_TURNS = 6;

    /** Turns in which that and the cloth's coming through itself are looked at once more, as either may bring about the other. */
    public const CLEARED_AGAIN = 3;

    /** What would be farther than so many edges from where it was by that, stays. */
    public const CLEARED = 1.5;

    /** What would become so many times as long by that, has no room to go there, and stays too. */
    public const DRAWN = 1.25;

    /** How much farther the diagonal of the threads may go where it does not resist at all. */
    public const SHEAR_ROOM = 0.2;

    /** Held vertices that all others are tied to; chosen as far from each other as can be. */
    public const TETHERS = 4;

    /** What presses on cloth may draw it so many times as far as its tethers reach. */
    public const GIVES = 1.01;

    /** A tether that is as long as this share of what it may be holds back what presses across it ... */
    public const NEARLY_TAUT = 0.95;

    /** ... where that cannot take it along: so far along its way at the most. */
    public const SWINGS = 0.3;

    /** What is held back is stopped within so many substeps ... */
    public const STOPS_IN = 2.0;

    /** ... and drawn back so fast at the most, m/s. */
    public const DRAWN_BACK = 0.2;

    /** What acts on a vertex pushes it to one side by up to this share: a flat sheet that stands on its edge must find a side to fall to. */
    public const UNEVEN = 0.004;

    /** In a substep a vertex may go this many times as far as in the last of the step before ... */
    public const HURRY = 1.5;

    /** ... and this much farther, in edges of the cloth. */
    public const SPARE = 0.06;

    /** What is round keeps corners of triangles farther off, so that their middles keep the gap: by so much of an edge at the most, as cloth that is farther off is seen to float ... */
    public const FLOATS = 0.2;

    /** ... and not where it would be less than this share of the gap. */
    public const UNFELT = 0.1;

    /** Points along a sharp edge of what is touched, in edges of the cloth. */
    public const RIDGE = 0.5;

    /** What is smaller than so many edges of the cloth is felt by its faces only: sharp edges of small things kick coarse cloth. */
    public const SMALL = 4.0;

    /** In a substep what is touched is made no faster than the two came at each other, and this: what is deep in a surface would be thrown, and hop for ever, m/s. */
    public const PARTING = 0.2;

    /** What is smaller than so many edges may come through between vertices: its middle is kept from that. */
    public const CORED = 12.0;

    /** The middle of a thing that is in something solid by less than so many of its edges has come in, and goes out again. */
    public const CAME_IN = 0.5;

    /** What is smaller than so many edges of something solid sinks in between its vertices by its corners, and is not drawn otherwise: what is in there is not seen. */
    public const RESOLVED = 2.0;

    /** It may tremble about a place by so much of an edge, and yet come to rest there. */
    public const TREMBLES = 0.4;

    /** Speed differences across an edge go so much sooner than speed itself. */
    public const SMOOTHING = 40.0;

    /** What hangs on held cloth loses its speed along it so much sooner. Common practice, no source. */
    public const RUBBING = 8.0;

    /** Two vertices of a cloth that lies on itself stay so far apart, in edges: nearer, edges slip through (0.6 and 0.7 leak). */
    public const BALL = 0.9;

    /** What is closer at rest may come as close as this share of it. */
    public const CLOSE = 0.9;

    /** Two that overlap are pushed apart by this share of how far they must stay at the most, at a time. */
    public const PUSH = 0.3;

    /** Rounds at the end of a frame in which what has come through itself is drawn back ... */
    public const UNTANGLE = 8;

    /** ... in each by so much of a vertex's ball at most. */
    public const WAY_OUT = 0.25;

    /** Where vertices are nearer than this share of how far they must stay, or lie at rest, what is around them may have come through ... */
    public const TIGHT = 0.99;

    /** ... a little farther apart where edges have been taken back: a long one gets through between balls that touch ... */
    public const TIGHT_THERE = 1.03;

    /** ... and farther still where something is about to sleep: what has come through by then stays. */
    public const TIGHT_ASLEEP = 1.3;

    /** ... and where an edge is shorter than this share of its length. */
    public const CRUMPLED = 0.9;

    /** The finest sheet in the world has this compliance at least, so that nothing divides by zero; m/N. */
    public const LEAST_COMPLIANCE = 1e-9;

    /**
     * @param float $apart what layers keep between them, m
     * @param float $h length of the substeps that all share, s
     *
     * @return float how fast it may come at anything, if it takes each second of them, m/s; INF: as fast as it likes
     */
    public static function calm(float $apart, float $h): float
    {
        $calm = self::TUNNELS * $apart / (self::EVERY * $h);

        return $calm < self::FAST ? $calm : INF;
    }
}
