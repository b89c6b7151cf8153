<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\Interactions\WebDriverActions;
use Facebook\WebDriver\Remote\RemoteExecuteMethod;
use Facebook\WebDriver\Remote\RemoteWebElement;
use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;
use PHPUnit\Framework\Attributes\DataProvider;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Throwable;

/**
 * Presses, types and drags at random in a demo shot, as a cat on the keyboard would, and says what went wrong: a fault in the browser's
 * log, somebody else blamed for one's own edits, an empty page. Not one of the tests; by hand: bin/test tests/Browser/RandomPresses.php
 * (YARD_BREAK_SEED=7 for other presses). What was done before a fault is in the failure.
 */
final class RandomPresses extends BrowserTestCase
{
    private const PRESSES = 120;

    private const KEYS = ['1', '2', '3', '4', '5', '6', 'b', ' ', 'n', 's', 'x', '[', ']', 'f', 'c', '.', ',', 'l', 'h', 'g', 'r', '?'];

    private const TYPED = ['0', '1', '7', '-3', '0.5', '100', '1e9', 'abc', '12 mm', ''];

    /** All that can be pressed without leaving the shot or waiting for a file. */
    private const PRESSABLE = <<<'JS'
        return [...document.querySelectorAll('[data-testid=stage-card] :is(button, input, [role=slider]), [data-testid=readout] button, [data-testid=panes] button, [data-stage], header button')]
            .filter((one) => one.getBoundingClientRect().width > 2 && !one.disabled && one.type !== 'file' && !/yard|room|Delete/i.test(one.textContent + one.ariaLabel))
        JS;

    private Randomizer $random;

    /** @return array<string, array{string}> */
    public static function shots(): array
    {
        return array_map(static fn (string $name): array => [$name], array_combine($names = ['Lantern pane', 'The hoist lets go', 'The bell sheds its skin', 'Behind the sail', 'Signboard loop', 'The loaf proves'], $names));
    }

    #[DataProvider('shots')]
    public function testPressing(string $shot): void
    {
        $this->random = new Randomizer(new Mt19937((int) (getenv('YARD_BREAK_SEED') ?: 1)));
        $id = array_column($this->api('shots')['shots'], 'id', 'name')[$shot];
        $this->driver->get(self::$url . "/shots/{$id}?stage=prop");
        $this->until(fn (): bool => $this->probe('stage') !== null, 'the shot');
        $done = [];
        for ($press = 0; $press < self::PRESSES; $press++) {
            try {
                $done[] = $this->press();
            } catch (Throwable $none) {
                // Gone or covered by the time it was to be pressed.
                $done[] = strtok($none->getMessage(), "\n");
            }
            usleep(250_000);
            self::assertSame([], $this->faults(), implode("\n", array_slice($done, -6)));
        }
        self::assertGreaterThan(0.3 * self::PRESSES, count(array_filter($done, static fn (mixed $one): bool => ! str_contains((string) $one, 'element'))), 'most were pressed');
    }

    private function press(): string
    {
        $body = $this->driver->findElement(WebDriverBy::tagName('body'));
        $chance = $this->random->getInt(0, 99);
        if ($chance < 60) {
            return $this->pressOne();
        }
        if ($chance < 78) {
            $key = $this->anyOf(self::KEYS);
            $body->sendKeys($key);

            return "key {$key}";
        }
        if ($chance < 90) {
            $body->sendKeys($chance < 88 ? [WebDriverKeys::CONTROL, 'z'] : WebDriverKeys::ESCAPE);

            return $chance < 88 ? 'undo' : 'escape';
        }
        (new WebDriverActions($this->driver))->moveToElement($this->find('[data-testid=viewport] canvas[data-engine]'), $this->random->getInt(-200, 200), $this->random->getInt(-150, 150))
            ->clickAndHold()->moveByOffset($this->random->getInt(-80, 80), $this->random->getInt(-60, 60))->release()->perform();

        return 'a drag in the picture';
    }

    /** Something that can be pressed, and what comes of it: a number is typed into, one of a list is chosen. */
    private function pressOne(): string
    {
        /** @var list<array<string, string>> $found */
        $found = $this->driver->executeScript(self::PRESSABLE);
        $one = new RemoteWebElement(new RemoteExecuteMethod($this->driver), (string) current($this->anyOf($found)), true);
        $role = $one->getAttribute('role');
        $said = trim("{$role} " . $this->driver->executeScript('return `${arguments[0].closest("[data-field]")?.dataset.field ?? ""} ${arguments[0].ariaLabel ?? ""} ${arguments[0].textContent}`', [$one]));
        $this->driver->executeScript('arguments[0].scrollIntoView({ block: "center" })', [$one]);
        $one->click();
        if ($role === 'spinbutton') {
            $text = $this->anyOf(self::TYPED);
            $one->sendKeys([WebDriverKeys::CONTROL, 'a']);
            $one->sendKeys([WebDriverKeys::NULL, $text, WebDriverKeys::ENTER]);

            return "{$said}: {$text}";
        }
        usleep(200_000);
        $options = $this->driver->findElements(WebDriverBy::cssSelector('[role=option], [role=menuitem]'));
        if ($options !== []) {
            $option = $this->anyOf($options);
            $said .= ': ' . $option->getText();
            $option->click();
        }

        return $said;
    }

    /** @return list<string> */
    private function faults(): array
    {
        $faults = [];
        foreach ($this->driver->manage()->getLog('browser') as $line) {
            // What is refused in words is as it should be.
            if ($line['level'] === 'SEVERE' && preg_match('/status of (404|409|412|422|503)/', $line['message']) !== 1) {
                $faults[] = $line['message'];
            }
        }
        $text = (string) $this->driver->executeScript('return document.body.innerText');
        if (trim($text) === '') {
            $faults[] = 'The page is empty.';
        }
        if (preg_match('/has changed meanwhile|Something broke|our fault/i', $text, $found) === 1) {
            $faults[] = $found[0];
        }

        return $faults;
    }

    /**
     * @template T
     *
     * @param array<T> $list
     *
     * @return T
     */
    private function anyOf(array $list): mixed
    {
        return array_values($list)[$this->random->getInt(0, count($list) - 1)];
    }
}
