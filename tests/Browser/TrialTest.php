<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;
use PHPUnit\Framework\Attributes\Group;

/** Two values of a setting are tried, seen in one picture, and one is taken. */
final class TrialTest extends BrowserTestCase
{
    /** By components and features besides; drawing four bakes without a graphics card takes a minute. */
    #[Group('long')]
    public function testTwoValuesAreTriedComparedAndOneIsTaken(): void
    {
        $shot = $this->api('shots')['shots'][0];
        $whole = $this->api("shots/{$shot['id']}");
        $document = ['frames' => 6] + $whole['document'];
        $document['props'][0]['release'] = ['trigger' => 'frame', 'frame' => ['frame' => 2]];
        $sent = $this->send('PUT', "shots/{$shot['id']}/document", ['document' => $document], $whole['head']['id']);
        $this->driver->get(self::$url . "/shots/{$shot['id']}?stage=break&prop=jar");
        $this->click("[data-field$='break/cellular/pieces'] input:not([type=range])");
        $this->button('[data-field] button', 'Try several values');
        $values = '[data-testid=try] input';
        $this->find($values)->sendKeys([WebDriverKeys::CONTROL, 'a']);
        $this->find($values)->sendKeys([WebDriverKeys::NULL, '6, x']);
        self::assertFalse($this->find('[data-testid=try] button[type=submit]')->isEnabled(), 'not a number');
        $this->find($values)->sendKeys([WebDriverKeys::BACKSPACE, '12', WebDriverKeys::ENTER]);
        $this->until(fn (): bool => count($this->driver->findElements(WebDriverBy::cssSelector('[data-testid=trials] button[aria-pressed]'))) === 4, 'both trials');
        self::assertSame($sent['head']['id'], $this->api("shots/{$shot['id']}")['head']['id'], 'the shot stays as it is');

        $this->button('button', 'All side by side');
        $names = fn (): array => array_map(static fn ($name): string => $name->getText(), $this->driver->findElements(WebDriverBy::cssSelector('[data-testid=panes] p')));
        $this->until(fn (): bool => $names() === ['Pieces 6', 'Pieces 12'], 'both in the picture');
        $this->until(fn (): bool => $this->drawn(0.0, 0.5) > 0.004 && $this->drawn(0.5, 1.0) > 0.004, 'something in each half');
        self::assertEqualsWithDelta(1.0, $this->drawn(0.0, 0.5) / $this->drawn(0.5, 1.0), 0.25, 'the same thing as large in both');
        // One over the other: as the line goes to the right, more of the first comes out from under it.
        $this->button('[data-testid=panes] button', 'One over the other');
        $picture = fn (): string => (string) $this->driver->executeScript('return document.querySelector("[data-testid=viewport] canvas[data-engine]").toDataURL()');
        usleep(500_000);
        $halved = $picture();
        $this->drag('[data-testid=panes] [role=slider]', [330, 0]);
        $this->until(fn (): bool => (int) $this->find('[data-testid=panes] [role=slider]')->getAttribute('aria-valuenow') > 90, 'the line near the edge');
        $this->until(fn (): bool => $picture() !== $halved, 'another picture');
        $this->find('body')->sendKeys('x');
        $this->until(fn (): bool => $this->driver->findElements(WebDriverBy::cssSelector('[data-testid=panes]')) === [], 'one bake alone');

        // The shot's own bake is younger than the trials; what is taken is shown all the same.
        $this->bake(6);
        $this->until(fn (): bool => $this->api("shots/{$shot['id']}")['bake']['status'] === 'done', 'its own bake');
        $this->button('[data-testid=trials] button', 'Take it');
        $this->until(fn (): bool => $this->api("shots/{$shot['id']}")['document']['props'][0]['break']['cellular']['pieces'] === 12, 'the one that was taken');
        $this->until(fn (): bool => preg_match('/pieces 12[^·]*·[^·]*·[^·]*is shown/s', $this->find('[data-testid=bakes]')->getText()) === 1, 'that it is shown');
        self::assertSame('false', $this->find('[data-testid=bake-state]')->getAttribute('data-stale'), 'its frames fit');
        $this->find('body')->sendKeys([WebDriverKeys::CONTROL, 'z']);
        $this->until(fn (): bool => $this->api("shots/{$shot['id']}")['head']['id'] === $sent['head']['id'], 'the shot as it was');
    }

}
