<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Math;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Math\Expansion;
use YardBreak\Core\Math\Orientation;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Tests\Fixture\Node;

/** Exact arithmetic against whole numbers of any length (JavaScript's BigInt), into which every double goes without loss. */
final class ExactTest extends TestCase
{
    /** A double times 2^200 as a BigInt; all numbers here are multiples of 2^-200. */
    private const WHOLE = <<<'JS'
        const view = new DataView(new ArrayBuffer(8));
        const whole = (d) => {
            view.setFloat64(0, d);
            const bits = view.getBigUint64(0);
            const exponent = Number((bits >> 52n) & 0x7ffn);
            if (exponent === 0) { if (d === 0) return 0n; throw new Error('too small'); }
            const mantissa = (bits & 0xfffffffffffffn) | 0x10000000000000n;
            const shift = BigInt(exponent - 1075 + 200);
            const size = shift >= 0n ? mantissa << shift : mantissa >> -shift;
            if (shift < 0n && (size << -shift) !== mantissa) throw new Error('too fine');
            return d < 0 ? -size : size;
        };
        const sign = (n) => (n > 0n ? 1 : n < 0n ? -1 : 0);
        JS;

    public function testTurnsOfPointsNearlyInLine(): void
    {
        $stream = RandomStream::named(1, 'turns');
        $cases = [];
        for ($i = 0; $i < 3000; $i++) {
            $a = [$stream->float(), $stream->float()];
            $b = [$stream->float(), $stream->float()];
            // On the line as well as doubles can say it, and a few steps beside it.
            $s = $stream->between(-2.0, 3.0);
            $c = [$a[0] + $s * ($b[0] - $a[0]), $a[1] + $s * ($b[1] - $a[1]) + 1.2e-16 * floor($stream->between(-3.0, 4.0))];
            $cases[] = [...$a, ...$b, ...$c];
        }
        // In line to the last bit.
        for ($k = 1; $k < 40; $k++) {
            $cases[] = [0.1, 0.2, 0.1 + $k / 64.0, 0.2 + $k / 64.0, 0.1 + $k / 32.0, 0.2 + $k / 32.0];
            $cases[] = [0.0, 0.0, $k / 8.0, $k / 4.0, 3.0 * $k / 8.0, 3.0 * $k / 4.0];
        }
        $expected = Node::run('d3-delaunay', self::WHOLE . 'return input.map((p)=>{const[ax,ay,bx,by,cx,cy]=p.map(whole);return sign((ax-cx)*(by-cy)-(ay-cy)*(bx-cx))})', $cases);
        self::assertSame($expected, array_map(static fn (array $c): int => Orientation::turn(...$c), $cases));
        self::assertCount(3, array_unique($expected), 'all three answers occur');
        $plain = array_map(static fn (array $c): int => ($c[0] - $c[4]) * ($c[3] - $c[5]) - ($c[1] - $c[5]) * ($c[2] - $c[4]) <=> 0.0, $cases);
        self::assertNotSame($expected, $plain, 'doubles alone get some of these wrong');
    }

    public function testPointsNearlyOnACircle(): void
    {
        $stream = RandomStream::named(2, 'circles');
        $cases = [];
        for ($i = 0; $i < 1500; $i++) {
            [$x, $y, $r] = [$stream->between(-3.0, 3.0), $stream->between(-3.0, 3.0), $stream->between(0.1, 2.0)];
            $turn = $stream->float();
            $case = [];
            foreach ([0.0, 0.3, 0.55, $stream->between(0.6, 0.95)] as $at) {
                $angle = 2.0 * M_PI * ($turn + $at);
                array_push($case, $x + $r * cos($angle), $y + $r * sin($angle));
            }
            $cases[] = $case;
        }
        // Corners of rectangles lie on a circle exactly.
        for ($k = 1; $k < 30; $k++) {
            [$w, $h] = [$k / 16.0, (31.0 - $k) / 8.0];
            $cases[] = [1.0, 2.0, 1.0 + $w, 2.0, 1.0 + $w, 2.0 + $h, 1.0, 2.0 + $h];
        }
        $expected = Node::run('d3-delaunay', self::WHOLE . <<<'JS'
            return input.map((p) => {
                const [ax, ay, bx, by, cx, cy, dx, dy] = p.map(whole);
                const [a, b, c] = [[ax - dx, ay - dy], [bx - dx, by - dy], [cx - dx, cy - dy]].map(([x, y]) => [x, y, x * x + y * y]);
                return sign(a[2] * (b[0] * c[1] - c[0] * b[1]) + b[2] * (c[0] * a[1] - a[0] * c[1]) + c[2] * (a[0] * b[1] - b[0] * a[1]));
            });
            JS, $cases);
        self::assertSame($expected, array_map(static fn (array $c): int => Orientation::inCircle(...$c), $cases));
        self::assertCount(3, array_unique($expected));
    }

    public function testSumsAndProductsAreExact(): void
    {
        $stream = RandomStream::named(3, 'sums');
        $cases = [];
        for ($i = 0; $i < 400; $i++) {
            $cases[] = array_map(static fn (): float => $stream->between(-1.0, 1.0) * 2.0 ** floor($stream->between(-20.0, 20.0)), range(1, 6));
        }
        // (a + b)(c - d) - e f: its sign, and its value to the nearest double or the one beside it.
        $expected = Node::run('d3-delaunay', self::WHOLE . <<<'JS'
            return input.map((p) => {
                const [a, b, c, d, e, f] = p.map(whole);
                const n = (a + b) * (c - d) - e * f;
                return [sign(n), Number(n) * 2 ** -400];
            });
            JS, $cases);
        foreach ($cases as $k => [$a, $b, $c, $d, $e, $f]) {
            $ours = Expansion::of($a)->plus(Expansion::of($b))->times(Expansion::difference($c, $d))->minus(Expansion::of($e)->times(Expansion::of($f)));
            self::assertIsArray($expected[$k]);
            self::assertSame($expected[$k][0], $ours->sign());
            self::assertEqualsWithDelta($expected[$k][1], $ours->toFloat(), 4e-16 * abs($ours->toFloat()));
            self::assertSame(-$ours->sign(), $ours->negated()->sign());
            self::assertSame(0, $ours->minus($ours)->sign());
        }
    }

    /** A 4 x 4 determinant as the diagram of cells uses it; rows are made dependent but for a small part. */
    public function testDeterminantsAreExact(): void
    {
        $stream = RandomStream::named(4, 'determinants');
        $cases = [];
        for ($i = 0; $i < 200; $i++) {
            $rows = [];
            for ($r = 0; $r < 3; $r++) {
                $rows[] = array_map(static fn (): float => $stream->between(-1.0, 1.0), range(1, 4));
            }
            $rows[] = array_map(static fn (int $c): float => $rows[0][$c] - 2.0 * $rows[1][$c] + 0.5 * $rows[2][$c], range(0, 3));
            $cases[] = $rows;
        }
        $expected = Node::run('d3-delaunay', self::WHOLE . <<<'JS'
            const det = (m) => (m.length === 1 ? m[0][0] : m[0].reduce((sum, f, c) => sum + (c % 2 ? -1n : 1n) * f * det(m.slice(1).map((row) => row.filter((_, k) => k !== c))), 0n));
            return input.map((m) => sign(det(m.map((row) => row.map(whole)))));
            JS, $cases);
        foreach ($cases as $k => $rows) {
            self::assertSame($expected[$k], Expansion::determinant(array_map(static fn (array $row): array => array_map(Expansion::of(...), $row), $rows))->sign());
        }
        self::assertCount(2, array_diff(array_unique($expected), [0]), 'rounding leaves them on either side');
    }
}
