<?php

declare(strict_types=1);

namespace Tests\Browser;

use YardBreak\Core\Art\Artwork;
use YardBreak\Core\Art\SvgReader;

/** Drawings as Chromium paints them, beside the outlines we read: what is painted is inside, what is clear is outside. */
final class SvgTest extends BrowserTestCase
{
    private const SIDE = 400;

    private const STEP = 4;

    public function testOutlinesAreWhatChromiumPaints(): void
    {
        $this->driver->get('data:text/html,<title>paint</title>');
        foreach (self::drawings() as $name => $body) {
            $side = self::SIDE;
            $svg = "<svg xmlns='http://www.w3.org/2000/svg' xmlns:xlink='http://www.w3.org/1999/xlink' width='{$side}' height='{$side}'>{$body}</svg>";
            /** @var list<int> $alpha */
            $alpha = $this->driver->executeAsyncScript(<<<'JS'
                const [svg, side, step, done] = arguments;
                const image = new Image();
                image.onload = () => {
                    const canvas = Object.assign(document.createElement('canvas'), { width: side, height: side });
                    const g = canvas.getContext('2d');
                    g.drawImage(image, 0, 0);
                    const data = g.getImageData(0, 0, side, side).data;
                    const alpha = [];
                    for (let y = 0; y < side; y += step) for (let x = 0; x < side; x += step) alpha.push(data[4 * (y * side + x) + 3]);
                    done(alpha);
                };
                image.onerror = () => done([]);
                image.src = `data:image/svg+xml;base64,${btoa(svg)}`;
                JS, [$svg, $side, self::STEP]);
            self::assertCount(($side / self::STEP) ** 2, $alpha, "Chromium paints {$name}");
            $art = SvgReader::read($svg);
            $inside = $wrong = 0;
            foreach ($alpha as $k => $a) {
                if ($a > 10 && $a < 245) {
                    // On the edge.
                    continue;
                }
                $x = self::STEP * ($k % intdiv($side, self::STEP)) + 0.5;
                $y = self::STEP * intdiv($k, intdiv($side, self::STEP)) + 0.5;
                $inside += $a >= 245 ? 1 : 0;
                $wrong += self::covers($art, $x, -$y) === ($a >= 245) ? 0 : 1;
            }
            self::assertGreaterThan(200, $inside, $name);
            // Curves stray from the drawing by a part of a pixel, so a place right beside an edge may differ.
            self::assertLessThanOrEqual(3, $wrong, $name);
        }
    }

    /** @return iterable<string, string> */
    private static function drawings(): iterable
    {
        yield 'curves of every kind' => '<path d="M40 60C90 0 150 10 200 60S300 150 340 60V180Q300 260 240 200T120 220L40 160Z"/>';
        yield 'arcs with all flags' => '<path d="M60 100a40 25 -30 0 1 50 25l30 -10a40 60 20 1 0 80 -20a30 20 10 0 0 60 10a50 30 0 1 1 20 90L60 300z"/>';
        yield 'numbers run together' => '<path d="M10 10l80.5.5.5 80-.25.25-80 0ZM150 150a60 60 0 01120 0 60 60 0 10-60 60z"/>';
        yield 'a path that goes on after it was closed' => '<path d="M50 50h100v100h-100zh-40v-40h40zm120 120h80v80z"/>';
        yield 'holes by both rules' => '<path d="M20 20h160v160h-160zM60 60v80h80v-80z"/><path fill-rule="evenodd" d="M220 20h160v160h-160zM260 60h80v80h-80z"/><path d="M20 220h160v160h-160zM60 260h80v80h-80z"/>';
        yield 'a star that crosses itself' => '<polygon points="100,10 40,198 190,78 10,78 160,198"/><polygon fill-rule="evenodd" points="300,210 240,398 390,278 210,278 360,398"/>';
        yield 'nested transforms' => '<g transform="translate(200,150) rotate(25)"><g transform="scale(1.5 -0.7) skewX(20)"><rect x="-60" y="-50" width="120" height="90" rx="20" ry="40"/></g><ellipse transform="matrix(.8 .3 -.2 1.1 20 90)" rx="90" ry="40"/></g>';
        yield 'turned about a place' => '<rect x="150" y="150" width="120" height="60" transform="rotate(40 200 200)"/><circle cx="100" cy="100" r="40" transform="skewY(-15)"/>';
        yield 'used and symbols' => '<defs><path id="leaf" d="M0 0C40 -40 80 -40 120 0C80 40 40 40 0 0"/><symbol id="two" overflow="visible"><use href="#leaf"/><use xlink:href="#leaf" y="80" transform="rotate(10)"/></symbol></defs><use href="#two" x="60" y="80"/><use href="#leaf" transform="translate(200 300) scale(1.3)"/>';
        yield 'styles that are inherited, overruled and by class' => '<style>.off{fill:none}#c{fill:blue}rect{fill:none}.on{fill:#123}</style><g fill="none"><circle cx="80" cy="80" r="50"/><circle cx="200" cy="80" r="50" fill="red"/><circle cx="320" cy="80" r="50" style="fill:green"/></g><rect x="20" y="200" width="80" height="80"/><rect class="on" x="120" y="200" width="80" height="80"/><ellipse class="off" id="c" cx="300" cy="250" rx="60" ry="40"/><circle class="off" cx="60" cy="340" r="40"/>';
        yield 'what is not shown' => '<rect x="20" y="20" width="100" height="100"/><g display="none"><rect x="200" y="20" width="100" height="100"/></g><g style="display:none"><circle cx="80" cy="250" r="60"/></g><circle cx="250" cy="250" r="80"/>';
        yield 'open lines are filled as if closed' => '<polyline points="20,20 180,60 120,200"/><path d="M220 220L380 240L300 380"/>';
        yield 'a small drawing in a large one' => '<svg x="50" y="60" width="200" height="100"><rect x="10" y="10" width="150" height="80"/></svg>';
    }

    private static function covers(Artwork $art, float $x, float $y): bool
    {
        foreach ($art->shapes as $shape) {
            $crossings = $winding = 0;
            foreach ($shape->outlines as $outline) {
                $n = count($outline);
                for ($k = 0; $k < $n; $k++) {
                    [$ax, $ay] = $outline[$k];
                    [$bx, $by] = $outline[($k + 1) % $n];
                    if (($ay > $y) !== ($by > $y) && $x < $ax + ($y - $ay) / ($by - $ay) * ($bx - $ax)) {
                        $crossings++;
                        $winding += $by > $ay ? 1 : -1;
                    }
                }
            }
            if ($shape->evenOdd ? $crossings % 2 === 1 : $winding !== 0) {
                return true;
            }
        }

        return false;
    }
}
