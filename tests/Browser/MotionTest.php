<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;
use PHPUnit\Framework\Attributes\Group;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Motion\Track;

/** Light and staged pieces and cloth as a person sees them: chosen, baked, looked at, changed. */
final class MotionTest extends BrowserTestCase
{
    private function open(string $name): string
    {
        foreach ($this->api('shots')['shots'] as $shot) {
            if ($shot['name'] === $name) {
                $this->driver->get(self::$url . "/shots/{$shot['id']}?stage=bake");

                return $shot['id'];
            }
        }
        self::fail("There is no shot {$name}.");
    }

    #[Group('long')]
    public function testALoopGoesOutAndComesBackAndALaterChangeKeepsTheFirstFrames(): void
    {
        $id = $this->open('Signboard loop');
        $this->bake(48);
        $reader = BakeReader::open(self::$folder . "/store/bakes/{$this->api("shots/{$id}")['bake']['id']}.frames");
        foreach ([1, 24, 48] as $number) {
            $frame = $reader->frame($number);
            self::assertNotNull($frame);
            $this->driver->get(self::$url . "/shots/{$id}?stage=bake&frame={$number}");
            $scale = (float) $frame->of('sign', Track::SCALE)[9];
            $place = array_slice($frame->of('sign', Track::POSE), 21, 3);
            $this->until(function () use ($scale, $place): bool {
                [$shown, $size] = [$this->probe('position("sign", 3)'), $this->probe('size("sign", 3)')];

                return is_array($shown) && abs($size - $scale) < 1e-6 && max(array_map(static fn ($a, $b): float => abs($a - $b), $shown, $place)) < 1e-5;
            }, "piece 4 where and as large as frame {$number} says");
        }
        self::assertSame(1.0, (float) ($reader->frame(48)?->of('sign', Track::SCALE)[9] ?? 0.0), 'it is back');

        // The way back begins later: what came before is not computed again.
        $this->stage('timing');
        $this->set('weight/stack/1/sweep/from', '30');
        $this->stage('bake');
        $this->bake(48);
        $this->until(fn (): bool => str_contains($this->find('[data-testid=kept]')->getText(), ' stay'), 'what stays');
        self::assertSame(1, preg_match('/1 to (\d+) stay/', $this->find('[data-testid=stage-card]')->getText(), $stay));
        self::assertGreaterThanOrEqual(20, (int) $stay[1]);
        self::assertLessThan(30, (int) $stay[1]);
    }

    #[Group('long')]
    public function testFlakesDriftLandAndAreGone(): void
    {
        $id = $this->open('The bell sheds its skin');
        $this->stage('break');
        $this->set('break/flakes/count', '200');
        $this->stage('motion');
        $this->find("[data-field$='motion/light/fallSpeed']");
        $this->set('motion/light/life', '60');
        $this->stage('bake');
        $this->bake(192);
        $bake = $this->api("shots/{$id}")['bake'];
        $last = BakeReader::open(self::$folder . "/store/bakes/{$bake['id']}.frames")->frame(192);
        self::assertSame(200, $last?->released());
        self::assertSame(0, $last->moving());
        $this->driver->get(self::$url . "/shots/{$id}?stage=bake&frame=192");
        $this->until(fn (): bool => $this->probe('have') === 192 && $this->probe('size("bell", 5)') !== null, 'the last frame');
        $gone = array_keys(array_filter($last->of('bell', Track::LIFE), static fn ($life): bool => (float) $life === 0.0));
        self::assertGreaterThan(100, count($gone));
        $this->until(fn (): bool => $this->probe('size("bell", 0)') === 1, 'the core, which stays');
        self::assertLessThan(1e-6, abs((float) $this->probe("size(\"bell\", {$gone[0]})")), 'what is gone has no size');
    }

    /** A sail is hung, pinned, baked; it is drawn vertex by vertex as the frames say, and can be pointed at where it has fallen to. */
    public function testASailIsHeldLetGoAndDrawnVertexByVertex(): void
    {
        $id = $this->open('Behind the sail');
        $this->stage('prop');
        $this->set('source/sheet/divisions', '16');
        $this->stage('motion');
        $this->set('motion/cloth/overhang', '15 cm');
        $holds = fn (): array => $this->api("shots/{$id}")['document']['props'][0]['motion']['cloth']['hold'];
        self::assertCount(1, $holds());
        $this->add('motion/cloth/hold', 'zone');
        $this->until(fn (): bool => count($holds()) === 2, 'another hold in the document');
        self::assertSame('zone', $holds()[1]['source']);
        $this->find("[data-field$='motion/cloth/hold/1/zone/within']");
        // Where it is held is drawn while one is at it.
        $this->find("[data-field$='motion/cloth/hold/1/zone/within'] input:not([type=range])")->click();
        $this->find('[aria-label="Legend: held from 0 to 1"]');
        $this->click("button[aria-label='Remove Hold 2']");
        $this->until(fn (): bool => count($holds()) === 1, 'it is gone again');
        $this->stage('bake');
        $this->set('frames', '84');
        $this->bake(84);
        $bake = $this->api("shots/{$id}")['bake'];
        $reader = BakeReader::open(self::$folder . "/store/bakes/{$bake['id']}.frames");
        foreach ([1, 50, 84] as $number) {
            $places = array_chunk($reader->frame($number)?->of('sail', Track::VERTICES) ?? [], 3);
            self::assertCount(289, $places);
            $this->driver->get(self::$url . "/shots/{$id}?stage=bake&frame={$number}");
            foreach ([0, 144, 288] as $v) {
                $this->until(function () use ($v, $places): bool {
                    $shown = $this->probe("vertex(\"sail\", {$v})");

                    return is_array($shown) && max(array_map(static fn ($a, $b): float => abs($a - $b), $shown, $places[$v])) < 1e-4;
                }, "vertex {$v} where frame {$number} says");
            }
            $this->untilDrawn("frame {$number}");
            $this->assertShaded($places);
            self::assertEqualsWithDelta(100.0 * ($number - 1) / 83.0, (float) $this->driver->executeScript('return document.querySelector("[data-cursor]").style.left'), 0.1, "the plots' cursor");
        }
        self::assertLessThan(2.0, max(array_column($places, 1)), 'it has come down from 2.7 m');
        $this->until(fn (): bool => str_contains($this->find('[data-testid=readout]')->getText(), 'vertices'), 'what is counted');
        $this->until(function (): bool {
            $this->driver->executeScript('const c = document.querySelector("canvas[data-engine]"), b = c.getBoundingClientRect(); window.__k = (window.__k ?? 0) + 1; c.dispatchEvent(new PointerEvent("pointermove", { clientX: b.left + b.width * (0.35 + 0.05 * (window.__k % 4)), clientY: b.top + b.height * (0.2 + 0.05 * (Math.floor(window.__k / 4) % 14)), bubbles: true }));');
            usleep(120_000);

            return str_contains((string) $this->driver->executeScript('return document.querySelector("[data-testid=viewport]").innerText'), 'Sail');
        }, 'its name under the pointer');

        // A shot of nothing but cloth plays too.
        $shot = $this->api("shots/{$id}");
        $shot['document']['props'] = [$shot['document']['props'][0]];
        $shot['document']['frames'] = 24;
        $this->send('PUT', "shots/{$id}/document", ['document' => $shot['document']], $shot['head']['id']);
        $this->driver->get(self::$url . "/shots/{$id}?stage=bake");
        $this->bake(24);
        $this->until(fn (): bool => is_array($this->probe('vertex("sail", 144)')), 'the cloth');
    }

    /**
     * Normals, which the graphics card works out, stand on the cloth: at right angles to the ways across nine vertices, nearly, as it is bent.
     *
     * @param list<list<float>> $places of 17 by 17 vertices
     */
    private function assertShaded(array $places): void
    {
        $leans = [];
        foreach ([4, 8, 12] as $row) {
            foreach ([4, 8, 12] as $column) {
                $v = 17 * $row + $column;
                $normal = $this->probe("normal(\"sail\", {$v})");
                self::assertIsArray($normal);
                foreach ([1, 17] as $step) {
                    $across = array_map(static fn (float $a, float $b): float => $b - $a, $places[$v - $step], $places[$v + $step]);
                    $length = static fn (array $v): float => sqrt(array_sum(array_map(static fn (float|int $x): float => $x * $x, $v)));
                    self::assertGreaterThan(0.0, $length($normal));
                    $leans[] = abs(array_sum(array_map(static fn (float|int $a, float $b): float => $a * $b, $normal, $across)) / $length($normal) / $length($across));
                }
            }
        }
        self::assertLessThan(0.1, array_sum($leans) / count($leans));
    }

    /** A weight follows a stone as it falls: before a bake by its keys, after it as baked, and so the stone is shown in Timing. */
    #[Group('long')]
    public function testAWeightFollowsWhatFalls(): void
    {
        $id = $this->open('Stone through the ice');
        $this->stage('timing');
        $legend = fn (): string => $this->find("[aria-label='Legend: weight from 0 to 1']")->getText();
        $this->until(fn (): bool => str_contains($legend(), 'where their keys put them'), 'what it goes by before a bake');
        $this->stage('bake');
        $this->bake(96);
        $bake = $this->api("shots/{$id}")['bake'];
        $height = BakeReader::open(self::$folder . "/store/bakes/{$bake['id']}.frames")->frame(14)?->of('stone', Track::POSE)[1];
        self::assertLessThan(1.2, $height);
        $this->driver->get(self::$url . "/shots/{$id}?stage=timing&prop=ice&frame=14");
        $this->until(fn (): bool => str_contains($legend(), 'Others as baked'), 'what it goes by now');
        $this->until(fn (): bool => is_array($this->probe('position("stone", 0)')) && abs($this->probe('position("stone", 0)')[1] - $height) < 0.01, 'the stone where it fell');
        // The bake is older than the shot now, and still the best there is.
        $this->set('release/weight/threshold', '0.6');
        $this->until(fn (): bool => str_contains($legend(), 'the last bake has them'), 'what it goes by then');
    }

    /** A blast is added, drawn, placed and baked; then the shot gets a camera, which makes no bake stale and goes along in the file. */
    #[Group('long')]
    public function testAForceIsSeenPlacedAndFeltAndACameraGoesAlong(): void
    {
        $id = $this->open('Jar off the sill');
        $this->stage('motion');
        $this->add('forces', 'blast');
        $this->saved();
        $document = fn (): array => $this->api("shots/{$id}")['document'];
        self::assertSame('blast', $document()['forces'][1]['force']);
        $this->set('blast/frame', '40');
        $this->set('blast/strength', '60');
        // It is open, so it is drawn, and stands in the picture; from beneath the shards it throws them up.
        $this->until(fn (): bool => str_contains($this->find('[data-testid=force-legend]')->getText(), 'Blast at frame 1'), 'what is drawn');
        $this->find("[data-handle='force blast'] [data-part=grip]")->sendKeys(array_fill(0, 4, WebDriverKeys::PAGE_DOWN));
        $this->saved();
        self::assertEqualsWithDelta(-0.04, $document()['forces'][1]['blast']['at']['y'], 1e-9);
        $this->driver->get(self::$url . "/shots/{$id}?stage=motion&frame=41");
        $this->find('[data-list=forces] fieldset:nth-of-type(2) button[aria-expanded]')->click();
        $this->until(fn (): bool => preg_match('/longest arrow [1-9]/', $this->find('[data-testid=force-legend]')->getText()) === 1, 'how hard it pushes');
        $this->stage('bake');
        $this->bake(96);
        $reader = BakeReader::open(self::$folder . "/store/bakes/{$this->api("shots/{$id}")['bake']['id']}.frames");
        $highest = static fn (int $number): float => (float) max(array_map(static fn (array $pose): float => (float) $pose[1], array_chunk($reader->frame($number)?->of('jar', Track::POSE) ?? [], 7)));
        self::assertLessThan(0.3, $highest(39));
        self::assertGreaterThan($highest(39) + 0.2, max($highest(46), $highest(50)), 'thrown up');

        $this->button('[aria-label=Look] button', 'Add a camera');
        $this->saved();
        self::assertTrue($document()['camera']['on']);
        $this->find('[data-testid=gate]');
        self::assertFalse($this->api("shots/{$id}")['bake']['stale']);
        self::assertStringContainsString('"cameras"', (string) file_get_contents(self::$url . "/api/bakes/{$this->api("shots/{$id}")['bake']['id']}/pieces.glb"));
        $this->button('[aria-label=Look] button', 'Front');
        $this->until(fn (): bool => $this->driver->findElements(WebDriverBy::cssSelector('[data-testid=gate]')) === [], 'the free view again');

        // Laid on its side as a whole, the result is seen so; nothing is baked for it.
        $this->find('body')->sendKeys(WebDriverKeys::HOME);
        $heights = array_column(array_chunk($reader->frame(1)?->of('jar', Track::POSE) ?? [], 7), 1);
        [$low, $high] = [array_search(min($heights), $heights, true), array_search(max($heights), $heights, true)];
        $lies = function (float $angle, string $what) use ($low, $high): void {
            $this->until(function () use ($angle, $low, $high): bool {
                [$from, $to] = [$this->probe("screen('jar', {$low})"), $this->probe("screen('jar', {$high})")];

                // Upwards from the lowest piece to the highest, counted from up, to the left.
                return abs(rad2deg(atan2($from[0] - $to[0], $from[1] - $to[1])) - $angle) < 15.0;
            }, $what);
        };
        $lies(0.0, 'it upright');
        $this->click("[data-field='placing/on'] [role=switch]");
        $this->set('placing/rotation/z', '90');
        $lies(90.0, 'it lying');
        $bake = $this->api("shots/{$id}")['bake'];
        self::assertFalse($bake['stale']);
        self::assertStringContainsString('"placed"', (string) file_get_contents(self::$url . "/api/bakes/{$bake['id']}/pieces.glb"));
        $this->stage('motion');
        $lies(0.0, 'it as it is computed');
    }

    /** Sparks come from nothing when the hammer is found to touch; then the same bake is played backwards, which computes nothing anew. */
    #[Group('long')]
    public function testABurstAtAFoundTouchAndThenBackwards(): void
    {
        $id = $this->open('Spark off the anvil');
        $this->set('frames', '28');
        $this->bake(28);
        $bake = fn (): array => $this->api("shots/{$id}")['bake'];
        $reader = BakeReader::open(self::$folder . "/store/bakes/{$bake()['id']}.frames");
        $found = array_search(true, array_map(static fn (int $n): bool => max(array_slice($reader->frame($n)?->of('blank', Track::LIFE) ?? [], 1)) > 0.0, range(1, 28)), true);
        self::assertIsInt($found);
        self::assertEqualsWithDelta(20, $found + 1, 3, 'where the hammer comes down');
        $look = function (int $frame, float $size) use ($id): void {
            $this->driver->get(self::$url . "/shots/{$id}?stage=bake&frame={$frame}");
            // The blank itself is there from the first.
            $this->until(fn (): bool => $this->probe('have') === 28 && $this->probe('size("blank", 0)') === 1 && abs((float) $this->probe('size("blank", 7)') - $size) < 1e-6, "a spark of size {$size} at frame {$frame}");
        };
        $look($found, 0.0);
        $look($found + 5, 1.0);

        $this->choose('plays', 'backwards');
        $this->bake(28);
        $this->until(fn (): bool => str_contains($this->find('[data-testid=kept]')->getText(), 'All frames'), 'that all of it stays');
        $look(29 - $found, 0.0);
        $look(29 - $found - 5, 1.0);
    }
}
