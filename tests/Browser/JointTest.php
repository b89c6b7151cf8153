<?php

declare(strict_types=1);

namespace Tests\Browser;

use Facebook\WebDriver\WebDriverBy;
use PHPUnit\Framework\Attributes\Group;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Motion\Track;

/** A jar is tied to a place and led along a path, baked, kept, frozen: what a person clicks is what is computed. */
final class JointTest extends BrowserTestCase
{
    #[Group('long')]
    public function testAThingIsTiedBakedKeptGoneBackToAndFrozen(): void
    {
        $id = (string) $this->api('shots')['shots'][0]['id'];
        $this->driver->get(self::$url . "/shots/{$id}?stage=prop&prop=jar");
        $this->until(fn (): bool => str_contains($this->find('body')->getText(), 'Watertight'), 'how large it is');
        $this->stage('motion');
        $joint = fn (): array => $this->api("shots/{$id}")['document']['joints'][0] ?? [];
        $this->add('joints', 'rope');
        $this->saved();
        self::assertSame('jar', $joint()['prop'], 'it holds the open prop');
        $from = $joint()['rope']['from'];
        self::assertEqualsWithDelta($from['x'], $joint()['rope']['to']['x'], 1e-6, 'and hangs on a place straight above');
        self::assertGreaterThan($from['y'], $joint()['rope']['to']['y']);
        // Its other end is dragged.
        $this->drag('[data-handle="joints/0/rope/to"] circle', [0, -40]);
        $this->saved();
        self::assertGreaterThan($from['y'] + 0.1, $joint()['rope']['to']['y']);
        $this->stage('bake');
        $this->set('frames', '40');
        $this->bake(40);
        $tied = $this->api("shots/{$id}")['bake']['id'];
        $reader = BakeReader::open(self::$folder . "/store/bakes/{$tied}.frames");
        $ends = $reader->frame(40)?->of($joint()['id'], Track::ENDS) ?? [];
        self::assertSame(1.0, (float) $ends[6], 'it holds');

        // Kept; then without the rope; then shown again and gone back to.
        $this->click('[data-testid=bakes] button[aria-pressed=false]');
        $this->until(fn (): bool => $this->api("shots/{$id}/bakes")['bakes'][0]['pinned'] === true, 'the pin');
        $this->stage('motion');
        $this->click('[data-list="joints"] button[aria-label^="Remove"]');
        $this->saved();
        $this->stage('bake');
        $this->bake(40);
        $this->until(fn (): bool => $this->api("shots/{$id}")['bake']['id'] !== $tied && $this->api("shots/{$id}")['bake']['status'] === 'done', 'another bake');
        $this->button('[data-testid=bakes] button', 'Show');
        $this->until(fn (): bool => $this->api("shots/{$id}")['bake']['id'] === $tied, 'the older bake');
        $this->button('[data-testid=bakes] button', 'Go back to it');
        $this->until(fn (): bool => count($this->api("shots/{$id}")['document']['joints']) === 1, 'the rope again');

        $this->stage('handoff');
        $this->click('[data-testid=freeze]');
        $last = [];
        $this->until(function () use ($id, &$last): bool {
            $props = $this->api("shots/{$id}")['document']['props'];
            $last = $props[count($props) - 1];

            return $last['source']['kind'] === 'file';
        }, 'the frozen prop');
        self::assertStringContainsString(' at ', $last['name']);
    }

    /** A sail on its spar: one sees where it is fastened, and a new fastening knows what to hold. */
    #[Group('long')]
    public function testClothIsFastened(): void
    {
        $id = array_column($this->api('shots')['shots'], 'id', 'name')['The spar comes down'];
        $joints = fn (): array => $this->api("shots/{$id}")['document']['joints'];
        $this->driver->get(self::$url . "/shots/{$id}?stage=motion&prop=sail");
        $this->until(fn (): bool => str_contains($this->find('body')->getText(), 'Lacing'), 'the joints');
        $this->button('[data-list="joints"] button', 'Lacing');
        $said = fn (): string => $this->driver->findElements(WebDriverBy::cssSelector('[data-testid=fastened]')) === [] ? '' : $this->find('[data-testid=fastened]')->getText();
        $this->until(fn (): bool => $said() === 'Lacing holds Sail to Spar at 45 places.', 'where it holds');
        $this->set('within', '0.2');
        $this->saved();
        $this->until(fn (): bool => preg_match('/at (\d+) places/', $said(), $found) === 1 && $found[1] > 100, 'more of it');
        // Several props of hard pieces could be meant: it is left open, and said here and before a bake.
        $this->add('joints', 'fastening');
        $this->saved();
        $last = $joints();
        self::assertSame(['sail', ''], [end($last)['prop'], end($last)['other']]);
        self::assertContains('Fastening holds nothing yet: no prop is chosen that moves as hard pieces.', array_column($this->api("shots/{$id}/checks")['findings'] ?? $this->api("shots/{$id}/checks"), 'text'));
    }
}
