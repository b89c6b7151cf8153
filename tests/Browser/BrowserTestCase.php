<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\Chrome\ChromeOptions;
use Facebook\WebDriver\Exception\StaleElementReferenceException;
use Facebook\WebDriver\Exception\TimeoutException;
use Facebook\WebDriver\Remote\DesiredCapabilities;
use Facebook\WebDriver\Remote\DriverCommand;
use Facebook\WebDriver\Remote\RemoteWebDriver;
use Facebook\WebDriver\Remote\RemoteWebElement;
use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;
use PHPUnit\Framework\TestCase;
use Tests\Processes;

/** A real browser on a real server with a real worker, on a yard of its own. */
abstract class BrowserTestCase extends TestCase
{
    /** A page at half size is drawn faster, and is the same page. */
    protected const SCALE = '0.5';

    private const WAIT = 60;

    /** What is drawn without a graphics card takes its time, s. */
    private const DRAWING = 180;

    protected static string $folder;

    protected static string $url;

    protected RemoteWebDriver $driver;

    /** @var list<resource> */
    private static array $processes = [];

    private static int $driverPort;

    public static function setUpBeforeClass(): void
    {
        self::$folder = sys_get_temp_dir() . '/yard-browser-' . bin2hex(random_bytes(5));
        mkdir(self::$folder);
        touch(self::$folder . '/yard.sqlite');
        $environment = Processes::environment(self::$folder);
        $log = self::$folder . '/log';
        $port = Processes::freePort();
        self::$url = "http://127.0.0.1:{$port}";
        foreach (['migrate', 'db:seed'] as $command) {
            self::assertSame(0, proc_close(Processes::start([PHP_BINARY, 'artisan', $command, '--force', '--quiet'], $log, $environment)));
        }
        self::$driverPort = Processes::freePort();
        self::$processes = [
            Processes::start(['bin/serve', (string) $port], $log, $environment),
            Processes::start([PHP_BINARY, 'artisan', 'queue:work', '--queue=default,trials', '--sleep=0.2', '--timeout=0', '--memory=2048', '--quiet'], $log, $environment),
            Processes::start(['chromedriver', '--port=' . self::$driverPort], $log, from: self::$folder),
        ];
        foreach ([$port, self::$driverPort] as $each) {
            Processes::await(static fn (): bool => @fsockopen('127.0.0.1', $each) !== false, 10.0);
        }
    }

    public static function tearDownAfterClass(): void
    {
        foreach (self::$processes as $process) {
            // The server's own workers are its children.
            exec('pkill -TERM -P ' . proc_get_status($process)['pid']);
            proc_terminate($process);
            proc_close($process);
        }
        exec('rm -rf ' . escapeshellarg(self::$folder));
    }

    protected function setUp(): void
    {
        $options = new ChromeOptions();
        $options->setBinary('/usr/bin/chromium');
        $options->addArguments([
            '--headless=new', '--no-sandbox', '--disable-gpu-rasterization', '--force-device-scale-factor=' . static::SCALE, '--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--disable-quic', '--no-first-run',
            '--disable-background-networking', '--disable-component-update', '--disable-sync', '--window-size=1280,943', '--hide-scrollbars',
            '--user-data-dir=' . self::$folder . '/profile-' . bin2hex(random_bytes(4)),
        ]);
        $capabilities = DesiredCapabilities::chrome();
        $capabilities->setCapability(ChromeOptions::CAPABILITY, $options);
        $this->driver = RemoteWebDriver::create('http://127.0.0.1:' . self::$driverPort, $capabilities, 30_000, 120_000);
    }

    protected function tearDown(): void
    {
        if ($this->status()->isFailure() || $this->status()->isError()) {
            @mkdir('storage/logs', 0o775, true);
            $this->driver->takeScreenshot('storage/logs/browser-' . $this->name() . '.png');
        }
        $this->driver->quit();
    }

    protected function find(string $css): RemoteWebElement
    {
        $this->until(fn (): bool => $this->driver->findElements(WebDriverBy::cssSelector($css)) !== [], "an element {$css}");

        return $this->driver->findElement(WebDriverBy::cssSelector($css));
    }

    protected function click(string $css): void
    {
        $this->find($css)->click();
    }

    /** Types into a setting, as a person does: select what is there, type, Enter. */
    protected function set(string $field, string $value): void
    {
        $this->find("[data-field$='{$field}'] input:not([type=range])")->sendKeys([WebDriverKeys::CONTROL, 'a']);
        $this->find("[data-field$='{$field}'] input:not([type=range])")->sendKeys([WebDriverKeys::NULL, $value, WebDriverKeys::ENTER]);
        $this->saved();
    }

    protected function choose(string $field, string $value): void
    {
        $this->find("[data-field$='{$field}'] [role=combobox]")->click();
        $this->find("[role=option][data-value='{$value}']")->click();
        $this->saved();
    }

    /**
     * Drags an element, as one sequence: sent step by step, the browser forgets who had taken hold of the pointer.
     *
     * @param array{int, int} ...$by pixels, one step after the other
     */
    protected function drag(string $css, array ...$by): void
    {
        $box = [];
        // A page that is still being laid out has it elsewhere in a moment.
        $this->until(function () use ($css, &$box): bool {
            $before = $box;
            usleep(200_000);
            $box = $this->driver->executeScript('arguments[0].scrollIntoView({ block: "nearest" }); const box = arguments[0].getBoundingClientRect(); return [box.x + box.width / 2, box.y + box.height / 2]', [$this->find($css)]);

            return $box === $before;
        }, "{$css} at rest");
        self::assertIsArray($box);
        [$x, $y] = array_map(intval(...), $box);
        $move = static fn (int $x, int $y): array => ['type' => 'pointerMove', 'duration' => 60, 'x' => $x, 'y' => $y, 'origin' => 'viewport'];
        $steps = [$move($x, $y), ['type' => 'pointerDown', 'button' => 0]];
        foreach ($by as [$right, $down]) {
            $steps[] = $move($x += $right, $y += $down);
        }
        $this->driver->execute(DriverCommand::ACTIONS, ['actions' => [['type' => 'pointer', 'id' => 'mouse', 'parameters' => ['pointerType' => 'mouse'], 'actions' => [...$steps, ['type' => 'pointerUp', 'button' => 0]]]]]);
    }

    /** Adds one of a kind to a list. */
    protected function add(string $list, string $kind): void
    {
        $this->button("[data-list$='{$list}'] > div:last-child button", 'Add a');
        $this->find("[role=menuitem][data-kind={$kind}]")->click();
    }

    protected function button(string $css, string $text): void
    {
        $this->until(function () use ($css, $text): bool {
            foreach ($this->driver->findElements(WebDriverBy::cssSelector($css)) as $button) {
                if (str_contains($button->getText(), $text)) {
                    $this->driver->executeScript('arguments[0].scrollIntoView({ block: "center" })', [$button]);
                    usleep(300_000);
                    $button->click();

                    return true;
                }
            }

            return false;
        }, "a button {$text}");
    }

    protected function saved(): void
    {
        usleep(350_000);
        $this->until(fn (): bool => str_starts_with($this->find('[data-testid=saving]')->getText(), 'saved'), 'the change to be saved');
    }

    protected function stage(string $name): void
    {
        $this->click("[data-stage={$name}]");
    }

    /** Bakes so many frames. What plays meanwhile is stopped: without a graphics card it takes the processors that the bake needs. */
    protected function bake(int $frames): void
    {
        $this->until(fn (): bool => $this->find('[data-testid=bake]')->isEnabled(), 'that it can be baked');
        $this->find('body')->sendKeys('b');
        $this->until(fn (): bool => $this->probe('playing') === true, 'that it plays');
        $this->find('body')->sendKeys(' ');
        $this->until(fn (): bool => $this->probe('have') === $frames, 'all frames');
    }

    protected function probe(string $expression): mixed
    {
        return $this->driver->executeScript("return window.__yard ? window.__yard.{$expression} : null");
    }

    /** @param callable(): bool $holds */
    protected function until(callable $holds, string $what, int $seconds = self::WAIT): void
    {
        try {
            $this->driver->wait($seconds, 150)->until(static function () use ($holds): bool {
                try {
                    return $holds();
                } catch (StaleElementReferenceException) {
                    // React put another element in its place while it was read: look again.
                    return false;
                }
            });
        } catch (TimeoutException) {
            self::fail("Waited in vain for {$what}.");
        }
    }

    /** Waits until props are to be seen in the picture: what is computed may be right, and yet nothing drawn. */
    protected function untilDrawn(string $what): void
    {
        $this->until(fn (): bool => $this->drawn() > 0.004, "{$what} to be seen");
    }

    /** Share of the picture that is covered, or of what lies between two shares of its width; paper and shadows let through what is behind. */
    protected function drawn(float $from = 0.0, float $to = 1.0): float
    {
        $url = $this->driver->executeScript('return document.querySelector("[data-testid=viewport] canvas[data-engine]").toDataURL("image/png")');
        $image = is_string($url) ? @imagecreatefromstring((string) base64_decode(substr($url, (int) strpos($url, ',') + 1))) : false;
        if ($image === false) {
            return 0.0;
        }
        [$covered, $all] = [0, 0];
        for ($y = 0; $y < imagesy($image); $y += 4) {
            for ($x = (int) ($from * imagesx($image)); $x < $to * imagesx($image); $x += 4) {
                $all++;
                // Seven bits, 0 is covered.
                $covered += ((int) imagecolorat($image, $x, $y) >> 24 & 0x7F) === 0 ? 1 : 0;
            }
        }

        return $covered / max(1, $all);
    }

    /** What is saved when a button of the film is pressed. */
    protected function filmed(string $kind): string
    {
        $this->driver->executeScript('window.saved = null; const make = URL.createObjectURL; URL.createObjectURL = (blob) => { window.saved ??= blob; return make.call(URL, blob); }');
        $this->click("[data-testid=film-{$kind}]");
        $this->until(fn (): bool => $this->driver->executeScript('return window.saved !== null') === true, "the film as {$kind}", self::DRAWING);
        $url = $this->driver->executeAsyncScript('const done = arguments[arguments.length - 1]; const reader = new FileReader(); reader.onload = () => done(reader.result); reader.readAsDataURL(window.saved)');
        self::assertIsString($url);

        return (string) base64_decode(explode(',', $url, 2)[1] ?? '', true);
    }

    /** @return array<mixed> */
    protected function api(string $path): array
    {
        $value = json_decode((string) file_get_contents(self::$url . "/api/{$path}"), true);

        return is_array($value) ? $value : [];
    }

    /**
     * Asks for a change, past the page.
     *
     * @param array<mixed> $body
     * @param string $head of the shot, as it was when it was read
     *
     * @return array<mixed>
     */
    protected function send(string $method, string $path, array $body = [], string $head = ''): array
    {
        $headers = ['Content-Type: application/json', 'Accept: application/json', ...($head === '' ? [] : ["If-Match: {$head}"])];
        $context = stream_context_create(['http' => ['method' => $method, 'header' => $headers, 'content' => json_encode((object) $body, JSON_THROW_ON_ERROR), 'ignore_errors' => true]]);
        $value = json_decode((string) file_get_contents(self::$url . "/api/{$path}", false, $context), true);
        self::assertIsArray($value, "{$method} {$path}");
        self::assertArrayNotHasKey('detail', $value, json_encode($value) ?: '');

        return $value;
    }
}
