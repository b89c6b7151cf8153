<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\Chrome\ChromeDevToolsDriver;
use PHPUnit\Framework\Attributes\DataProvider;

/**
 * What playing costs the browser's main thread: milliseconds of script for each frame that is drawn, with a form open, and
 * how much of the form is drawn anew meanwhile. Not one of the tests; by hand: bin/test tests/Browser/PlaybackBench.php
 */
final class PlaybackBench extends BrowserTestCase
{
    /** @return array<string, array{array<string, mixed>}> */
    public static function shots(): array
    {
        $still = ['release' => ['trigger' => 'frame', 'frame' => ['frame' => 3]], 'position' => ['y' => 1.2]];

        return [
            '500 hard pieces' => [['frames' => 48, 'props' => [['id' => 'a', 'name' => 'A', ...$still, 'source' => ['box' => ['divisions' => 1]], 'break' => ['cellular' => ['pieces' => 500]]]]]],
            '10,000 light pieces' => [['frames' => 48, 'forces' => [['id' => 'g', 'name' => 'Gravity'], ['id' => 'w', 'name' => 'Wind', 'force' => 'wind']], 'props' => [['id' => 'a', 'name' => 'A', ...$still, 'source' => ['kind' => 'ball'], 'break' => ['pattern' => 'flakes', 'flakes' => ['count' => 10000]], 'motion' => ['mover' => 'light']]]]],
            'cloth of 20,000 vertices' => [['frames' => 24, 'props' => [['id' => 'a', 'name' => 'A', ...$still, 'source' => ['kind' => 'sheet', 'sheet' => ['divisions' => 141]], 'break' => ['pattern' => 'whole'], 'motion' => ['mover' => 'cloth', 'cloth' => ['hold' => [['source' => 'rim', 'rim' => ['side' => 'low-x']]]]]]]]],
        ];
    }

    /** @param array<string, mixed> $shot */
    #[DataProvider('shots')]
    public function testPlaying(array $shot): void
    {
        $made = $this->send('POST', 'shots', ['name' => 'Bench']);
        $id = $made['id'];
        $this->send('PUT', "shots/{$id}/document", ['document' => ['version' => 2, ...$shot]], $made['head']['id']);
        $this->send('POST', "shots/{$id}/bakes", []);
        for ($wait = 0; $wait < 600 && $this->api("shots/{$id}")['bake']['status'] !== 'done'; $wait++) {
            usleep(500_000);
        }
        $this->driver->get(self::$url . "/shots/{$id}?stage=motion");
        $this->until(fn (): bool => $this->probe('have') === $shot['frames'], 'all frames');
        $this->driver->executeScript('window.__changed = 0; new MutationObserver((all) => { window.__changed += all.length; }).observe(document.querySelector("[data-testid=stage-card]"), { subtree: true, childList: true, attributes: true, characterData: true });');
        // What is still arriving is drawn before.
        $this->until(function (): bool {
            $this->driver->executeScript('window.__changed = 0');
            usleep(9_000_000);

            return $this->driver->executeScript('return window.__changed') === 0;
        }, 'the page to come to rest');
        $tools = new ChromeDevToolsDriver($this->driver);
        $tools->execute('Performance.enable');
        $before = $this->metrics($tools);
        $drawn = $this->probe('drawn');
        $this->find('body')->sendKeys(' ');
        usleep(12_000_000);
        $this->find('body')->sendKeys(' ');
        $after = $this->metrics($tools);
        $frames = $this->probe('drawn') - $drawn;
        self::assertGreaterThan(5, $frames);
        $changed = $this->driver->executeScript('return window.__changed');
        self::assertSame(0, $changed, 'a form that is open is not drawn anew');
        fwrite(STDERR, json_encode([
            'bench' => 'playback', 'shot' => $this->dataName(), 'frames drawn' => $frames, 'ms of script a frame' => round(1e3 * ($after['ScriptDuration'] - $before['ScriptDuration']) / $frames, 2),
            'nodes of the form changed' => $changed, 'heap MB' => round($after['JSHeapUsedSize'] / 1e6),
        ], JSON_THROW_ON_ERROR) . "\n");
    }

    /** @return array<string, float> */
    private function metrics(ChromeDevToolsDriver $tools): array
    {
        return array_column($tools->execute('Performance.getMetrics')['metrics'], 'value', 'name');
    }

}
