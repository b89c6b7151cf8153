<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\Interactions\WebDriverActions;
use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;
use PHPUnit\Framework\Attributes\Group;

/** A weight that follows another prop: set up, mended by a remedy, seen at every frame without asking anybody, read under the pointer. */
final class WeightTest extends BrowserTestCase
{
    private const FRAMES = 48;

    /** A plank, and a block that passes over it; nothing hangs on the block yet. */
    private function open(): string
    {
        $id = $this->send('POST', 'shots', ['name' => 'Passing by'])['id'];
        $shot = $this->api("shots/{$id}");
        $this->send('PUT', "shots/{$id}/document", ['document' => ['version' => 2, 'frames' => self::FRAMES, 'props' => [
            ['id' => 'plank', 'name' => 'Plank', 'source' => ['box' => ['width' => 3, 'height' => 0.1, 'depth' => 0.5, 'divisions' => 6]], 'position' => ['y' => 0.5], 'break' => ['cellular' => ['pieces' => 12]]],
            ['id' => 'block', 'name' => 'Block', 'source' => ['box' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3, 'divisions' => 1]], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'],
                'position' => ['x' => ['keys' => [['frame' => 1, 'value' => -2.5, 'ease' => 'linear'], ['frame' => self::FRAMES, 'value' => 2.5]]], 'y' => 0.8]],
        ]]], $shot['head']['id']);
        $this->driver->get(self::$url . "/shots/{$id}?stage=timing&prop=plank");
        $this->until(fn (): bool => $this->probe('drawn') > 0, 'the picture');

        return $id;
    }


    /** @return list<string> what has been asked of weights so far */
    private function asked(): array
    {
        return array_values(array_filter((array) $this->driver->executeScript('return performance.getEntriesByType("resource").map((entry) => entry.name)'), static fn ($name): bool => str_contains((string) $name, '/weights')));
    }

    private function hover(int $piece): void
    {
        $at = [];
        // Until the camera has framed the shot it may be anywhere, and move.
        $this->until(function () use (&$at, $piece): bool {
            $before = $at;
            usleep(400_000);
            $at = $this->probe("screen('plank', {$piece})");

            return is_array($at) && $at === $before && abs($at[0]) < 300 && abs($at[1]) < 200;
        }, 'the piece in the picture, at rest');
        (new WebDriverActions($this->driver))->moveToElement($this->find('canvas'), (int) $at[0], (int) $at[1])->perform();
    }

    #[Group('long')]
    public function testAWeightFollowsAPassingProp(): void
    {
        $id = $this->open();
        $this->choose('release/trigger', 'weight');
        $this->add('weight/stack', 'reach');
        $this->saved();

        // It says that nothing is chosen, and offers what there is.
        $this->stage('bake');
        $this->until(fn (): bool => str_contains($this->find('[data-testid=stage-card]')->getText(), 'no prop is chosen'), 'the check');
        $this->button('[data-testid=stage-card] button', 'Let it follow Block');
        $this->saved();
        $layer = fn (): array => $this->api("shots/{$id}")['document']['props'][0]['weight']['stack'][0];
        $this->until(fn (): bool => $layer()['reach']['props'] === ['block'], 'the block to be followed');
        $this->until(fn (): bool => ! str_contains($this->find('[data-testid=stage-card]')->getText(), 'no prop is chosen'), 'the check to be gone');

        // One distance pushes the other along.
        $this->stage('timing');
        $this->set('reach/full', '0.7');
        self::assertEquals(['full' => 0.7, 'none' => 0.7], array_intersect_key($layer()['reach'], ['full' => 0, 'none' => 0]));
        $this->set('reach/full', '25 cm');

        // All frames arrive; then nobody is asked any more.
        $before = -1;
        $this->until(function () use (&$before): bool {
            $was = $before;
            usleep(1_500_000);

            return ($before = count($this->asked())) === $was;
        }, 'the weights of all frames');
        $left = $this->nearest(-1.2);
        $seen = [];
        foreach ([WebDriverKeys::HOME, WebDriverKeys::END] as $key) {
            $this->find('body')->sendKeys($key);
            $this->hover($left);
            $this->until(fn (): bool => preg_match('/^\d\.\d\d here$/', $this->find('[data-testid=weight-here]')->getText()) === 1, 'the weight under the pointer');
            $seen[] = (float) $this->find('[data-testid=weight-here]')->getText();
        }
        self::assertSame([0.0, 0.0], $seen, 'the block is at either end');
        $this->find('body')->sendKeys(WebDriverKeys::HOME);
        for ($k = 1; $k < 14; $k++) {
            $this->find('body')->sendKeys(WebDriverKeys::ARROW_RIGHT);
        }
        $this->hover($left);
        $this->until(fn (): bool => (float) $this->find('[data-testid=weight-here]')->getText() > 0.95, 'the block over the left end');
        self::assertSame($before, count($this->asked()), 'scrubbing asks for nothing');

        // A click shows what it does over time.
        (new WebDriverActions($this->driver))->click()->perform();
        $this->find('[data-testid=weight-over-time] canvas');
    }

    /** A driver is taken by its handle: the front follows while it is held, what was done is one step, also back. */
    #[Group('long')]
    public function testADriverIsDraggedAndTheFrontFollows(): void
    {
        $id = $this->open();
        $this->choose('release/trigger', 'weight');
        $this->add('weight/stack', 'reach');
        $this->find("[data-field$='reach/props'] button[role=checkbox]")->click();
        $this->set('reach/none', '0.5');
        $this->saved();
        $this->seek(24);
        $here = $this->nearest(0.0);
        $weight = function (int $piece): float {
            $this->hover($piece);
            $this->until(fn (): bool => preg_match('/^\d\.\d\d here$/', $this->find('[data-testid=weight-here]')->getText()) === 1, 'the weight under the pointer');

            return (float) $this->find('[data-testid=weight-here]')->getText();
        };
        $this->until(fn (): bool => $weight($here) > 0.3, 'the block is over the middle');
        $revision = $this->api("shots/{$id}")['head']['number'];
        // Taken by its foot and held behind the plank, where it hides none of it.
        $foot = $this->find('[data-handle=block] [data-part=foot]');
        $drag = (new WebDriverActions($this->driver))->moveToElement($foot)->clickAndHold();
        for ($k = 0; $k < 12; $k++) {
            $drag->moveByOffset(0, -12);
        }
        $drag->perform();
        $this->until(fn (): bool => $this->find('[data-testid=handles] [role=status]')->getText() !== '', 'numbers beside the pointer');
        $this->until(fn (): bool => abs((float) $this->probe("position('block', 0)")[2]) > 0.3, 'the block to follow the pointer');
        self::assertSame($revision, $this->api("shots/{$id}")['head']['number'], 'nothing is stored while it is held');
        $this->until(fn (): bool => in_array('drafts', (array) $this->driver->executeScript('return performance.getEntriesByType("resource").filter((entry) => entry.name.includes("weights") && entry.initiatorType === "fetch").length > 0 ? ["drafts"] : []'), true), 'a glimpse of the weight');
        (new WebDriverActions($this->driver))->release()->perform();
        $this->saved();
        $after = $this->api("shots/{$id}");
        self::assertSame($revision + 1, $after['head']['number'], 'one step');
        self::assertLessThan(-0.9, $after['document']['props'][1]['position']['z']);
        // Along the floor: as high as before, and its keys along x have one more at this frame.
        self::assertSame(0.8, $after['document']['props'][1]['position']['y']);
        $this->until(fn (): bool => $weight($here) < 0.1, 'the front to have followed');
        $this->find('[aria-label^="Undo"]')->click();
        $this->until(fn (): bool => $this->api("shots/{$id}")['document']['props'][1]['position']['z'] == 0, 'one step back');
        $this->until(fn (): bool => abs((float) $this->probe("position('block', 0)")[2]) < 0.01, 'the block where it was');
        $this->until(fn (): bool => $weight($here) > 0.3, 'the front where it was');
        // By keyboard too.
        $this->find('[data-handle=block] [data-part=grip]')->sendKeys(WebDriverKeys::PAGE_UP);
        $this->until(fn (): bool => abs($this->api("shots/{$id}")['document']['props'][1]['position']['y'] - 0.81) < 1e-9, 'a centimetre up');
    }

    /** A zone is picked where the prop stands in the shot; a curve is drawn; a dragged cue takes the keys along that hang on it. */
    #[Group('long')]
    public function testAPlaceIsPickedACurveDrawnAndACueDragged(): void
    {
        $id = $this->open();
        $prop = fn (int $k): array => $this->api("shots/{$id}")['document']['props'][$k];
        $this->choose('release/trigger', 'weight');
        $this->add('weight/stack', 'zone');
        $this->choose('zone/space', 'shot');
        $this->click("[data-testid='pick-at']");
        $this->hover($this->nearest(1.0));
        (new WebDriverActions($this->driver))->click()->perform();
        $this->saved();
        // The plank is half a metre up, 0.1 thick and 0.5 deep: what was clicked is on its skin, there in the shot.
        $at = $prop(0)['weight']['stack'][0]['zone']['at'];
        self::assertEqualsWithDelta(1.0, $at['x'], 0.4);
        self::assertTrue(abs($at['y'] - 0.55) < 1e-3 || abs(abs($at['z']) - 0.25) < 1e-3, (string) json_encode($at));

        $this->driver->executeScript("[...document.querySelectorAll('[data-testid=stage-card] button')].filter((button) => button.textContent === 'More').at(-1).click()");
        $this->drag("[data-field$='weight/curve'] circle", [10, -20], [10, -20]);
        $this->saved();
        $curve = $prop(0)['weight']['curve'];
        self::assertCount(2, $curve);
        self::assertGreaterThan(0.2, $curve[0][1]);

        // Two numbers of the block get keys on a cue, at frame 20.
        $shot = $this->api("shots/{$id}");
        $document = $shot['document'];
        $document['cues'] = [['id' => 'hit', 'name' => 'Hit', 'frame' => 20]];
        foreach (['y' => 0.8, 'z' => 0.0] as $axis => $value) {
            $document['props'][1]['position'][$axis] = ['keys' => [['frame' => 1, 'value' => $value], ['cue' => 'hit', 'offset' => 0, 'value' => $value + 0.2]]];
        }
        $this->send('PUT', "shots/{$id}/document", ['document' => $document], $shot['head']['id']);
        $this->driver->get(self::$url . "/shots/{$id}?stage=prop&prop=block");
        $this->find('[data-key="20"]');
        $this->drag('[data-cue=hit] path', [40, 0], [60, 0]);
        $cue = fn (): int => $this->api("shots/{$id}")['document']['cues'][0]['frame'];
        $this->until(fn (): bool => $cue() > 22, 'the cue to have moved');
        $frame = $cue();
        $this->find("[data-key=\"{$frame}\"]");
        self::assertSame([], $this->driver->findElements(WebDriverBy::cssSelector('[data-key="20"]')));
        // The key in the strip is dragged back: it stays on its cue, so many frames before it.
        $this->drag("[data-key=\"{$frame}\"]", [-30, 0], [-30, 0]);
        $this->saved();
        $key = $prop(1)['position']['y']['keys'][1];
        self::assertSame('hit', $key['cue']);
        self::assertLessThan(0, $key['offset']);
    }

    /** Painted in the picture, one stroke is one step; with Alt it is painted out. */
    #[Group('long')]
    public function testAWeightIsPaintedAndUndone(): void
    {
        $id = $this->open();
        $this->choose('release/trigger', 'weight');
        $this->add('weight/stack', 'brush');
        $this->saved();
        $this->click('[data-testid=paint]');
        $strokes = fn (): array => $this->api("shots/{$id}")['document']['props'][0]['weight']['stack'][0]['brush']['strokes'];
        $here = $this->nearest(0.0);
        $weight = function () use ($here): float {
            $this->hover($here);
            $this->until(fn (): bool => preg_match('/^\d\.\d\d here$/', $this->find('[data-testid=weight-here]')->getText()) === 1, 'the weight under the pointer');

            return (float) $this->find('[data-testid=weight-here]')->getText();
        };
        self::assertSame(0.0, $weight());
        (new WebDriverActions($this->driver))->clickAndHold()->moveByOffset(12, 2)->moveByOffset(12, 2)->release()->perform();
        $this->until(fn (): bool => count($strokes()) === 1, 'a stroke');
        $this->saved();
        self::assertGreaterThan(1, strlen(base64_decode($strokes()[0]['points'])) / 12);
        // Its vertices lie far apart, so what is between them is no more than the mean of some.
        $this->until(fn (): bool => $weight() > 0.5, 'what was painted');
        (new WebDriverActions($this->driver))->keyDown(null, WebDriverKeys::ALT)->click()->keyUp(null, WebDriverKeys::ALT)->perform();
        $this->until(fn (): bool => array_column($strokes(), 'mode') === ['add', 'remove'], 'a stroke that paints out');
        $this->until(fn (): bool => $weight() < 0.3, 'the hole in it');
        $this->find('[aria-label^="Undo"]')->click();
        $this->until(fn (): bool => count($strokes()) === 1 && $weight() > 0.5, 'one step back');
        // Escape puts the brush down: a click paints no more.
        $this->find('body')->sendKeys(WebDriverKeys::ESCAPE);
        $this->hover($here);
        (new WebDriverActions($this->driver))->click()->perform();
        $this->saved();
        self::assertCount(1, $strokes());
    }

    private function seek(int $frame): void
    {
        $this->find('body')->sendKeys(WebDriverKeys::HOME);
        for ($k = 1; $k < $frame; $k++) {
            $this->find('body')->sendKeys(WebDriverKeys::ARROW_RIGHT);
        }
    }

    /** The piece whose middle is nearest to a place along the plank. */
    private function nearest(float $x): int
    {
        $best = 0;
        $least = INF;
        for ($k = 0; $k < 12; $k++) {
            $at = null;
            $this->until(function () use (&$at, $k): bool {
                return is_array($at = $this->probe("position('plank', {$k})"));
            }, "piece {$k}");
            if (abs($at[0] - $x) < $least) {
                [$least, $best] = [abs($at[0] - $x), $k];
            }
        }

        return $best;
    }
}
