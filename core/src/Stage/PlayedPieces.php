<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Math\BestTurn;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Weight\Samples;

/** Where the pieces of a prop are in its own axes as its file moves it: each keeps its shape, and goes with the places it has, as nearly as it can. */
final class PlayedPieces
{
    /** So many places of a piece are looked at, at most. */
    private const PLACES = 24;

    /** So many frames are remembered: who lets go asks about two in turn. */
    private const REMEMBERED = 4;

    /** @var array<string, list<array{array{float, float, float}, array{float, float, float, float}}>> by frame, what was said last */
    private array $known = [];

    /**
     * @param list<list<array{float, float, float}>> $rest places of each piece at rest
     * @param list<array{float, float, float}> $centres of the pieces at rest
     */
    private function __construct(private readonly PlayedRest $played, private readonly array $rest, private readonly array $centres)
    {
    }

    /**
     * @param int $most pieces that are asked about, from the first on
     *
     * @return self|null null: the prop does not play its file
     */
    public static function of(Prop $prop, BrokenProp $broken, Surfaces $surfaces, int $most = PHP_INT_MAX): ?self
    {
        if (! $prop->plays()) {
            return null;
        }
        $x = $y = $z = $rest = $centres = [];
        foreach ($broken->pieces as $k => $piece) {
            if ($k >= $most) {
                break;
            }
            $count = $piece->vertexCount();
            $own = [];
            for ($n = 0, $end = min($count, self::PLACES); $n < $end; $n++) {
                $v = intdiv($n * $count, $end);
                $own[] = [$x[], $y[], $z[]] = [$piece->x[$v], $piece->y[$v], $piece->z[$v]];
            }
            $rest[] = $own;
            $centres[] = $broken->centre($k);
        }
        $played = PlayedRest::of($prop, new Samples($x, $y, $z), [1.0, 1.0, 1.0], $surfaces);

        return $played === null ? null : new self($played, $rest, $centres);
    }

    /** @return list<array{array{float, float, float}, array{float, float, float, float}}> where the middle of each piece is, m, and how it is turned */
    public function at(float $frame): array
    {
        $key = "frame {$frame}";
        if (! isset($this->known[$key])) {
            [$x, $y, $z] = $this->played->at($frame);
            $poses = [];
            $from = 0;
            foreach ($this->rest as $k => $places) {
                $now = [];
                for ($end = $from + count($places); $from < $end; $from++) {
                    $now[] = [$x[$from], $y[$from], $z[$from]];
                }
                [$was, $is, $turn] = BestTurn::of($places, $now);
                $poses[] = [Quaternion::carried($is, $turn, Vector::minus($this->centres[$k], $was)), $turn];
            }
            $this->known = [...array_slice($this->known, 1 - self::REMEMBERED), $key => $poses];
        }

        return $this->known[$key];
    }
}
