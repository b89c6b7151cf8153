<?php

declare(strict_types=1);

namespace Tests\Browser;

use PHPUnit\Framework\Attributes\Group;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Motion\Track;

/** A figure is brought in, played, and comes apart on its way. */
final class FigureTest extends BrowserTestCase
{
    #[Group('long')]
    public function testAFigureIsBroughtInPlayedAndComesApart(): void
    {
        $id = $this->send('POST', 'shots', ['name' => 'A figure'])['id'];
        $head = $this->api("shots/{$id}")['head']['id'];
        $this->send('PUT', "shots/{$id}/document", ['document' => ['version' => 2, 'frames' => 40, 'planes' => [], 'forces' => [['id' => 'g', 'name' => 'Gravity', 'force' => 'gravity']], 'props' => [[
            'id' => 'eel', 'name' => 'Eel', 'source' => ['kind' => 'file'], 'break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 12]], 'look' => ['relief' => 0],
        ]]]], $head);
        $prop = fn (): array => $this->api("shots/{$id}")['document']['props'][0];
        $this->driver->get(self::$url . "/shots/{$id}?stage=prop&prop=eel");
        $this->find('[data-testid=mesh-file]')->sendKeys((string) realpath(__DIR__ . '/../../core/demo/art/eel.glb'));
        $this->until(fn (): bool => strlen((string) ($prop()['source']['file']['asset'] ?? '')) === 64, 'the file');
        $this->untilDrawn('the figure');
        self::assertStringContainsString('It moves in its file', $this->find('[data-testid=file-motion]')->getText());
        $this->click('[data-testid=file-motion-play]');
        $this->saved();
        self::assertSame(['played', 'whole', true], [$prop()['motion']['mover'], $prop()['break']['pattern'], $prop()['played']['on']]);

        // As pieces that ride on it, until they let go.
        $this->stage('motion');
        $this->choose('motion/mover', 'staged');
        $this->stage('break');
        $this->choose('break/pattern', 'cellular');
        $this->stage('timing');
        $this->choose('release/trigger', 'frame');
        $this->set('release/frame/frame', '30');
        $this->stage('motion');
        $this->set('staged/takes', '1');
        $this->choose('staged/after', 'end');
        $this->stage('bake');
        $this->bake(40);
        // It swims along x: every piece goes with it, then falls.
        $bake = BakeReader::open(self::$folder . "/store/bakes/{$this->api("shots/{$id}")['bake']['id']}.frames");
        $place = static fn (int $frame): array => array_slice($bake->frame($frame)?->of('eel', Track::POSE) ?? [], 0, 3);
        [$first, $last, $gone] = [$place(1), $place(29), $place(40)];
        self::assertGreaterThan(0.5, $last[0] - $first[0]);
        self::assertLessThan(0.15, abs($last[1] - $first[1]));
        self::assertLessThan($last[1] - 0.5, $gone[1]);
        $this->driver->get(self::$url . "/shots/{$id}?stage=bake&frame=29");
        $this->until(fn (): bool => is_array($at = $this->probe('position("eel", 0)')) && abs($at[0] - $last[0]) < 0.01, 'the piece where it is by then');
        $this->untilDrawn('the figure');
    }
}
