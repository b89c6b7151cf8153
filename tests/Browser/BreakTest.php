<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;
use PHPUnit\Framework\Attributes\Group;

/** Working on a break by hand: where the blow lands, slivers, pieces broken again. */
final class BreakTest extends BrowserTestCase
{
    #[Group('long')]
    public function testABlowIsPickedInThePictureAndSinglePiecesAreJoinedAndBrokenAgain(): void
    {
        $this->driver->get(self::$url);
        $this->find('li a');
        $this->driver->findElement(WebDriverBy::partialLinkText('Lantern pane'))->click();
        $this->until(fn (): bool => $this->probe('pieces("pane")') === 1, 'the whole pane');
        preg_match('#/shots/([0-9a-z]+)#', $this->driver->getCurrentURL(), $match);
        $id = $match[1] ?? '';
        $document = fn (): array => $this->api("shots/{$id}")['document']['props'][0]['break'];
        $count = fn (): int => (int) $this->driver->executeScript("return document.querySelector('[data-testid=piece-count]')?.textContent ?? -1");
        $this->stage('break');
        $this->until(fn (): bool => $this->probe('pieces("pane")') > 50, 'the web');

        // Where the pane is in the picture, and a click there.
        $web = fn (): array => $document()['web'];
        $before = $web()['at'];
        $this->set('break/web/axis/x', '0.3');
        $this->click('[data-testid=pick-at]');
        // The pieces still move to the new break for a moment, so a click may fall between two of them: try again then.
        $this->until(function () use ($web, $before): bool {
            $spot = $this->probe('screen("pane", 20)');
            if (! is_array($spot)) {
                return false;
            }
            $this->driver->action()->moveToElement($this->find('[data-testid=viewport] canvas[data-engine]'), (int) $spot[0], (int) $spot[1])->click()->perform();
            usleep(600_000);

            return $web()['at'] !== $before;
        }, 'the picked place');
        $this->saved();
        $break = $web();
        // On the pane's surface (6 mm thick), and the blow goes straight into it.
        self::assertEqualsWithDelta(0.003, abs($break['at']['z']), 1e-4);
        self::assertEqualsWithDelta(0.0, $break['axis']['x'], 1e-4);
        self::assertEqualsWithDelta(1.0, abs($break['axis']['z']), 1e-4);

        // The smallest piece goes to the neighbour it shares most with.
        $this->until(fn (): bool => $this->probe('pieces("pane")') === $count(), 'picture and readout agree');
        $whole = $count();
        $this->click('[data-testid=readout] tbody tr');
        $this->find('[data-testid=piece-actions]');
        $this->driver->findElement(WebDriverBy::xpath("//button[contains(., 'Join to neighbour')]"))->click();
        $this->until(fn (): bool => count($document()['edits']) === 1, 'the join in the document');
        $this->until(fn (): bool => $count() === $whole - 1, 'one piece fewer');

        // The largest is broken again; undo takes it back.
        $this->driver->findElement(WebDriverBy::xpath("//th//button[contains(., 'mass')]"))->click();
        $this->click('[data-testid=readout] tbody tr');
        $this->driver->findElement(WebDriverBy::xpath("//button[normalize-space(.)='Break again']"))->click();
        $this->until(fn (): bool => $count() === $whole + 4, 'six pieces out of one');
        $this->find('body')->sendKeys([WebDriverKeys::CONTROL, 'z']);
        $this->until(fn (): bool => $count() === $whole - 1, 'undone');

        // A drag with Shift over the whole picture chooses all pieces; the view stays.
        // Until no older mesh comes in late.
        usleep(2_000_000);
        $spot = fn (): mixed => $this->probe('screen("pane", 20)');
        $before = $spot();
        $canvas = $this->find('[data-testid=viewport] canvas[data-engine]');
        $this->driver->action()->keyDown(null, WebDriverKeys::SHIFT)->moveToElement($canvas, -300, -200)->clickAndHold()->moveByOffset(300, 200)->moveByOffset(300, 200)->release()->keyUp(null, WebDriverKeys::SHIFT)->perform();
        $this->until(fn (): bool => str_contains($this->find('[data-testid=piece-actions]')->getText(), ($whole - 1) . ' selected'), 'all of them');
        self::assertSame($before, $spot());
    }
}
