<?php

declare(strict_types=1);

namespace Tests\Browser;

use PHPUnit\Framework\Attributes\DataProvider;

/**
 * Takes the pictures of the documents anew, from the demo shots as they are. Not one of the tests; by hand, and look at them:
 * bin/test tests/Browser/Pictures.php (what is painted by hand is not among them)
 */
final class Pictures extends BrowserTestCase
{
    protected const SCALE = '1';

    /** @return array<string, array{0: string, 1: string, 2?: string, 3?: bool, 4?: array{pointer: string, values: list<int>}}> demo shot, where to look, what to press there; whether it is baked before; what is tried */
    public static function pictures(): array
    {
        return [
            'prop' => ['Jar off the sill', 'stage=prop', '', false],
            'break' => ['Jar off the sill', 'stage=break', '', false],
            'board' => ['Signboard struck', 'stage=break', '', false],
            'timing' => ['Millstone to cushion', 'stage=timing&frame=40', '', false],
            'motion' => ['Jar off the sill', 'stage=motion&frame=30'],
            'bake' => ['Jar off the sill', 'stage=bake&frame=30', 'All side by side', true, ['pointer' => '/props/0/break/cellular/pieces', 'values' => [15, 150, 400]]],
            'hand-off' => ['Jar off the sill', 'stage=handoff&frame=40'],
            'sheet' => ['The lime keg bursts', 'stage=bake&frame=30', 'Shot sheet'],
            'forces-bake' => ['The lime keg bursts', 'stage=bake&frame=27', 'Camera'],
            'spar-bake' => ['The spar comes down', 'stage=bake&frame=46'],
            'flakes-bake' => ['The bell sheds its skin', 'stage=bake&frame=104'],
            'awning-bake' => ['The awning is torn', 'stage=bake&frame=16'],
            'breach-bake' => ['Boathouse breach', 'stage=bake&frame=14', 'Camera'],
            'cloth-bake' => ['Behind the sail', 'stage=bake&frame=80'],
            'soft-bake' => ['Boundary stone goes soft', 'stage=bake&frame=66', 'Camera'],
            'eel-bake' => ['The eel goes through', 'stage=bake&frame=72', 'Camera'],
            'seen' => ['Stone through the ice', 'stage=bake&frame=26'],
        ];
    }

    /** @param array{pointer: string, values: list<int>}|null $tried */
    #[DataProvider('pictures')]
    public function testTake(string $shot, string $where, string $press = '', bool $baked = true, ?array $tried = null): void
    {
        $id = array_column($this->api('shots')['shots'], 'id', 'name')[$shot];
        $done = fn (): bool => array_unique(array_column($this->api("shots/{$id}/bakes")['bakes'], 'status')) === ['done'];
        if ($baked) {
            $this->send('POST', "shots/{$id}/bakes");
            if ($tried !== null) {
                $this->send('POST', "shots/{$id}/trials", $tried);
            }
            for ($wait = 0; $wait < 600 && ! $done(); $wait++) {
                usleep(500_000);
            }
        }
        $this->driver->get(self::$url . "/shots/{$id}?{$where}");
        $frames = $this->api("shots/{$id}")['document']['frames'];
        $this->until(fn (): bool => $baked ? $this->probe('have') === $frames : $this->probe('stage') !== null, 'what is to be seen');
        if ($press !== '') {
            $this->button('button', $press);
        }
        // Readouts and the first picture arrive one after the other.
        usleep(12_000_000);
        $this->driver->takeScreenshot("docs/screenshots/{$this->dataName()}.png");
        self::assertFileExists("docs/screenshots/{$this->dataName()}.png");
    }

    /** The yard itself, after all shots have been looked at. */
    public function testTakeTheYard(): void
    {
        $this->driver->get(self::$url);
        usleep(6_000_000);
        $this->driver->takeScreenshot('docs/screenshots/yard.png');
        self::assertFileExists('docs/screenshots/yard.png');
    }
}
