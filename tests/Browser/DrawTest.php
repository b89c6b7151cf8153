<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;
use PHPUnit\Framework\Attributes\Group;

/** Drawing cuts on the board. */
final class DrawTest extends BrowserTestCase
{
    #[Group('long')]
    public function testACutIsDrawnDraggedUndoneAndOutlivesNewArt(): void
    {
        $this->driver->get(self::$url);
        $this->find('li a');
        $this->driver->findElement(WebDriverBy::partialLinkText('Signboard'))->click();
        $this->until(fn (): bool => $this->probe('pieces("sign")') === 1, 'the whole board');
        preg_match('#/shots/([0-9a-z]+)#', $this->driver->getCurrentURL(), $match);
        $id = $match[1] ?? '';
        $prop = fn (): array => $this->api("shots/{$id}")['document']['props'][0];
        $lines = fn (): array => $prop()['break']['drawn']['lines'];
        $count = fn (): int => (int) $this->driver->executeScript("return document.querySelector('[data-testid=piece-count]')?.textContent ?? -1");
        $this->stage('break');
        $this->find('[data-testid=board]');
        $this->until(fn (): bool => $count() === 25, 'the demo\'s pieces');
        $before = $lines();

        // A line from far left to far right, a little below the middle: it splits all it crosses.
        $board = $this->find('[data-testid=board] svg');
        foreach ([[-320, 20], [-100, 34], [320, 12]] as [$x, $y]) {
            $this->driver->action()->moveToElement($board, $x, $y)->click()->perform();
            usleep(150_000);
        }
        $this->driver->getKeyboard()->sendKeys(WebDriverKeys::ENTER);
        $this->until(fn (): bool => count($lines()) === count($before) + 1, 'the line in the document');
        self::assertCount(3, $lines()[count($before)]['points']);
        self::assertFalse($lines()[count($before)]['closed']);
        $this->until(fn (): bool => $count() >= 29, 'more pieces');
        $this->saved();

        // Its middle is dragged down; the line keeps its ends.
        $this->driver->findElement(WebDriverBy::xpath("//div[@data-testid='drawing-tools']//button[contains(., 'Move')]"))->click();
        $this->driver->action()->moveToElement($board, -100, 34)->clickAndHold()->moveByOffset(10, 20)->moveByOffset(6, 30)->release()->perform();
        $last = count($before);
        $this->until(fn (): bool => $lines()[$last]['points'][1][1] < -0.1, 'the point further down');
        self::assertCount(3, $lines()[$last]['points']);
        $this->saved();

        // Undone line by line.
        foreach ([1, 2] as $step) {
            $this->find('body')->sendKeys([WebDriverKeys::CONTROL, 'z']);
            $this->saved();
            usleep(400_000 * $step);
        }
        $this->until(fn (): bool => $lines() === $before && $count() === 25, 'as it was');

        // Other art in its place: the lines stay, and cut it.
        $svg = self::$folder . '/other.svg';
        file_put_contents($svg, '<svg xmlns="http://www.w3.org/2000/svg"><circle cx="50" cy="50" r="50" fill="#a03"/></svg>');
        $this->stage('prop');
        $this->find('[data-testid=art-file]')->sendKeys($svg);
        $this->until(fn (): bool => $prop()['source']['art']['fileName'] === 'other.svg', 'the new art');
        self::assertSame($before, $lines());
        $this->stage('break');
        $this->until(fn (): bool => $count() > 10 && $count() !== 25, 'cut by the same lines');

        // A web to begin with, on a clean board.
        $this->driver->findElement(WebDriverBy::xpath("//button[contains(., 'Take all away')]"))->click();
        $this->until(fn (): bool => $lines() === [], 'no line left');
        $this->click('[data-testid=starter]');
        $this->until(fn (): bool => count($lines()) === 12, 'nine rays and three rings');
        $this->until(fn (): bool => $count() >= 36, 'the web\'s pieces');
    }
}
