<?php

declare(strict_types=1);

namespace YardBreak\Core\Art;

use YardBreak\Core\Format\BadFile;

/** Path data (SVG 2, chapter Paths) as closed outlines of straight pieces. Curves are divided until they stray by less than asked. */
final class SvgPath
{
    /** Numbers each command takes. */
    private const TAKES = ['M' => 2, 'L' => 2, 'H' => 1, 'V' => 1, 'C' => 6, 'S' => 4, 'Q' => 4, 'T' => 2, 'A' => 7, 'Z' => 0];

    private const MOST_PIECES = 200;

    /** @var list<list<array{float, float}>> */
    private array $outlines = [];

    /** @var list<array{float, float}> */
    private array $points = [];

    private float $x = 0.0;

    private float $y = 0.0;

    private function __construct(private readonly float $stray)
    {
    }

    /**
     * @param float $stray how far a curve may lie from its straight pieces, in the path's units
     *
     * @return list<list<array{float, float}>>
     *
     * @throws BadFile
     */
    public static function outlines(string $data, float $stray): array
    {
        $path = new self(max(1e-9, $stray));
        $path->follow($data);

        return $path->outlines;
    }

    private function follow(string $data): void
    {
        if (preg_match_all('/[MmLlHhVvCcSsQqTtAaZz]|[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?/', $data, $found) === false) {
            throw new BadFile('A path cannot be read.');
        }
        $rest = trim(preg_replace('/[MmLlHhVvCcSsQqTtAaZz]|[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?|[\s,]+/', '', $data) ?? '');
        if ($rest !== '') {
            throw new BadFile('A path holds “' . mb_substr($rest, 0, 20) . '”, which is neither a command nor a number.');
        }
        $tokens = $found[0];
        $at = 0;
        $command = '';
        $before = '';
        [$startX, $startY, $controlX, $controlY] = [0.0, 0.0, 0.0, 0.0];
        while ($at < count($tokens)) {
            if (ctype_alpha($tokens[$at][0]) && $tokens[$at] !== 'e' && $tokens[$at] !== 'E') {
                $command = $tokens[$at++];
            } elseif ($command === '' || $command === 'Z' || $command === 'z') {
                throw new BadFile('A path has numbers where a command belongs.');
            }
            $kind = strtoupper($command);
            $n = $kind === 'A' ? $this->arcNumbers($tokens, $at) : [];
            for ($k = count($n); $k < self::TAKES[$kind]; $k++) {
                if (! isset($tokens[$at]) || ctype_alpha($tokens[$at][0])) {
                    throw new BadFile("A path ends in the middle of its command {$command}.");
                }
                $n[] = (float) $tokens[$at++];
            }
            $relative = $command !== $kind;
            [$ox, $oy] = $relative ? [$this->x, $this->y] : [0.0, 0.0];
            $smooth = in_array($before, $kind === 'S' ? ['C', 'S'] : ['Q', 'T'], true);
            switch ($kind) {
                case 'M':
                    $this->close();
                    [$startX, $startY] = [$ox + $n[0], $oy + $n[1]];
                    $this->to($startX, $startY);
                    $command = $relative ? 'l' : 'L';
                    break;
                case 'L':
                    $this->to($ox + $n[0], $oy + $n[1]);
                    break;
                case 'H':
                    $this->to($ox + $n[0], $this->y);
                    break;
                case 'V':
                    $this->to($this->x, $oy + $n[0]);
                    break;
                case 'C':
                case 'S':
                    if ($kind === 'S') {
                        $n = [$smooth ? 2.0 * $this->x - $controlX - $ox : $this->x - $ox, $smooth ? 2.0 * $this->y - $controlY - $oy : $this->y - $oy, ...$n];
                    }
                    [$controlX, $controlY] = [$ox + $n[2], $oy + $n[3]];
                    $this->cubic($ox + $n[0], $oy + $n[1], $controlX, $controlY, $ox + $n[4], $oy + $n[5]);
                    break;
                case 'Q':
                case 'T':
                    if ($kind === 'T') {
                        $n = [$smooth ? 2.0 * $this->x - $controlX - $ox : $this->x - $ox, $smooth ? 2.0 * $this->y - $controlY - $oy : $this->y - $oy, ...$n];
                    }
                    [$controlX, $controlY] = [$ox + $n[0], $oy + $n[1]];
                    [$ex, $ey] = [$ox + $n[2], $oy + $n[3]];
                    $this->cubic($this->x + 2.0 / 3.0 * ($controlX - $this->x), $this->y + 2.0 / 3.0 * ($controlY - $this->y), $ex + 2.0 / 3.0 * ($controlX - $ex), $ey + 2.0 / 3.0 * ($controlY - $ey), $ex, $ey);
                    break;
                case 'A':
                    $this->arc($n[0], $n[1], $n[2], $n[3] !== 0.0, $n[4] !== 0.0, $ox + $n[5], $oy + $n[6]);
                    break;
                default:
                    $this->close();
                    [$this->x, $this->y] = [$startX, $startY];
                    $this->points = [[$startX, $startY]];
            }
            $before = $kind;
        }
        $this->close();
    }

    /**
     * The first five numbers of an arc: its two flags may be written without anything between them and what follows.
     *
     * @param list<string> $tokens
     *
     * @return list<float>
     */
    private function arcNumbers(array &$tokens, int &$at): array
    {
        $n = [];
        for ($k = 0; $k < 5; $k++) {
            if (! isset($tokens[$at]) || ctype_alpha($tokens[$at][0])) {
                throw new BadFile('A path ends in the middle of an arc.');
            }
            $token = $tokens[$at];
            if ($k >= 3 && strlen($token) > 1 && ($token[0] === '0' || $token[0] === '1')) {
                $n[] = (float) $token[0];
                $tokens[$at] = substr($token, 1);
                continue;
            }
            $n[] = (float) $token;
            $at++;
        }

        return $n;
    }

    private function to(float $x, float $y): void
    {
        $this->points[] = [$x, $y];
        $this->x = $x;
        $this->y = $y;
    }

    private function close(): void
    {
        $points = [];
        foreach ($this->points as $point) {
            if ($points === [] || $points[count($points) - 1] !== $point) {
                $points[] = $point;
            }
        }
        if (count($points) > 1 && $points[0] === $points[count($points) - 1]) {
            array_pop($points);
        }
        if (count($points) > 2) {
            $this->outlines[] = $points;
        }
        $this->points = [];
    }

    private function cubic(float $x1, float $y1, float $x2, float $y2, float $x3, float $y3): void
    {
        [$x0, $y0] = [$this->x, $this->y];
        // Strays at most sqrt(3)/18 of the largest second difference, over n squared (Filip, Magedson, Markot 1986).
        $bend = max(hypot($x0 - 2.0 * $x1 + $x2, $y0 - 2.0 * $y1 + $y2), hypot($x1 - 2.0 * $x2 + $x3, $y1 - 2.0 * $y2 + $y3));
        $n = (int) min(self::MOST_PIECES, max(1.0, ceil(sqrt(0.75 * $bend / $this->stray))));
        for ($k = 1; $k < $n; $k++) {
            $t = $k / $n;
            $s = 1.0 - $t;
            $this->points[] = [
                $s * $s * $s * $x0 + 3.0 * $s * $s * $t * $x1 + 3.0 * $s * $t * $t * $x2 + $t * $t * $t * $x3,
                $s * $s * $s * $y0 + 3.0 * $s * $s * $t * $y1 + 3.0 * $s * $t * $t * $y2 + $t * $t * $t * $y3,
            ];
        }
        $this->to($x3, $y3);
    }

    /** An elliptical arc (SVG 2, appendix on arcs: from end points to its middle). */
    private function arc(float $rx, float $ry, float $degrees, bool $large, bool $sweep, float $x, float $y): void
    {
        $rx = abs($rx);
        $ry = abs($ry);
        if ($rx === 0.0 || $ry === 0.0 || ($x === $this->x && $y === $this->y)) {
            $this->to($x, $y);

            return;
        }
        $c = cos(deg2rad($degrees));
        $s = sin(deg2rad($degrees));
        $dx = 0.5 * ($this->x - $x);
        $dy = 0.5 * ($this->y - $y);
        $px = $c * $dx + $s * $dy;
        $py = $c * $dy - $s * $dx;
        $fit = ($px / $rx) ** 2 + ($py / $ry) ** 2;
        if ($fit > 1.0) {
            $rx *= sqrt($fit);
            $ry *= sqrt($fit);
        }
        $below = ($rx * $py) ** 2 + ($ry * $px) ** 2;
        if (! is_finite($fit) || ! ($below > 0.0) || ! is_finite($below)) {
            // Far too small or large to be told from a line.
            $this->to($x, $y);

            return;
        }
        $factor = sqrt(max(0.0, (($rx * $ry) ** 2 - $below) / $below)) * ($large === $sweep ? -1.0 : 1.0);
        $qx = $factor * $rx * $py / $ry;
        $qy = -$factor * $ry * $px / $rx;
        $mx = $c * $qx - $s * $qy + 0.5 * ($this->x + $x);
        $my = $s * $qx + $c * $qy + 0.5 * ($this->y + $y);
        $from = atan2(($py - $qy) / $ry, ($px - $qx) / $rx);
        $span = atan2((-$py - $qy) / $ry, (-$px - $qx) / $rx) - $from;
        if ($sweep && $span < 0.0) {
            $span += 2.0 * M_PI;
        } elseif (! $sweep && $span > 0.0) {
            $span -= 2.0 * M_PI;
        }
        $n = (int) min(self::MOST_PIECES, max(2.0, ceil(abs($span) / (2.0 * acos(max(0.0, 1.0 - $this->stray / max($rx, $ry)))))));
        for ($k = 1; $k < $n; $k++) {
            $u = $rx * cos($from + $span * $k / $n);
            $v = $ry * sin($from + $span * $k / $n);
            $this->points[] = [$mx + $c * $u - $s * $v, $my + $s * $u + $c * $v];
        }
        $this->to($x, $y);
    }
}
