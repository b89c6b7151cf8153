<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/** A piece that stays as a pattern once made it, whatever the rest of the prop is broken by later. */
final readonly class Lock
{
    /**
     * @param array{float, float, float} $at middle of the piece, m
     * @param Pattern $pattern the one that made it
     */
    public function __construct(public array $at, public Pattern $pattern)
    {
    }

    /**
     * Cuts the locked pieces out of a prop that is still whole.
     *
     * @param list<self> $locks
     *
     * @return int the piece that is all the rest; locked pieces have the other numbers
     *
     * @throws BreakFailed
     */
    public static function cutOut(array $locks, Fracture $fracture, Progress $progress): int
    {
        $rest = 0;
        $places = [];
        foreach (self::byPattern($locks) as [$pattern, $own]) {
            $pattern->cut($fracture, $rest, (new PieceFaces($fracture))->mesh($rest)[0], $progress);
            $middles = Middles::of($fracture);
            array_push($places, ...$own);
            $locked = [];
            foreach ($places as $place) {
                $locked[$middles->nearest($place)] = true;
            }
            $into = range(0, max(0, $fracture->pieces - 1));
            $others = array_diff($into, array_keys($locked));
            if ($others === []) {
                throw new BreakFailed('All pieces are locked, so there is nothing left to break. Unlock one.');
            }
            $first = min($others);
            foreach ($others as $piece) {
                $into[$piece] = $first;
            }
            PieceMerger::merge($fracture, $into);
            $rest = $first;
        }

        return $rest;
    }

    /**
     * @param list<self> $locks
     *
     * @return list<array{Pattern, list<array{float, float, float}>}>
     */
    private static function byPattern(array $locks): array
    {
        $groups = [];
        foreach ($locks as $lock) {
            foreach ($groups as $k => [$pattern]) {
                if ($pattern == $lock->pattern) {
                    $groups[$k][1][] = $lock->at;
                    continue 2;
                }
            }
            $groups[] = [$lock->pattern, [$lock->at]];
        }

        return $groups;
    }
}
