<?php

declare(strict_types=1);

namespace Tests\Interface;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Shot\DemoShot;
use YardBreak\Core\Shot\ShotSchema;

/** Forms and words that are made from the document: they must say what the server would. */
final class FormTest extends TestCase
{
    use Modules;

    /** A new prop of the form is the one that the server would complete. */
    public function testDefaultsAreTheServers(): void
    {
        $forms = self::module('api/schema.ts', 'return { source: m.standard(["props", 0, "source"]), break: m.standard(["props", 0, "break"]), timing: m.standard(["props", 0, "timing"]), motion: m.standard(["props", 0, "motion"]), edit: m.standard(["props", 0, "break", "edits", 0, "with"]), floor: m.standard(["floor"]) }');
        $full = ShotSchema::load()->complete(['version' => 1, 'props' => [['id' => 'a', 'name' => 'A', 'break' => ['edits' => [['kind' => 'again', 'at' => [0, 0, 0]]]]]]]);
        self::assertIsArray($full['props']);
        $prop = $full['props'][0];
        foreach (['source', 'timing', 'motion'] as $part) {
            self::assertEquals($prop[$part], $forms[$part], $part);
        }
        self::assertEquals($full['floor'], $forms['floor']);
        self::assertEquals($prop['break']['edits'][0]['with'], $forms['edit']);
        unset($prop['break']['edits'], $forms['break']['edits']);
        self::assertEquals($prop['break'], $forms['break']);
    }

    /** Settings come and go with what they depend on. */
    public function testOnlyWhatMattersIsShown(): void
    {
        $cases = [
            [['pattern' => 'halving', 'count' => 0], ['rounds', 'count', 'seed', 'wander'], ['pieces', 'axis', 'rays']],
            [['pattern' => 'halving', 'count' => 12], ['count'], ['rounds']],
            [['pattern' => 'grain', 'places' => []], ['axis', 'slenderness'], ['clustering']],
            [['pattern' => 'grain', 'places' => [1, 2]], ['places'], ['axis']],
            [['pattern' => 'flakes', 'roughness' => 0.5], ['flakes', 'thickness'], ['fibres', 'fineness', 'smallest']],
            [['pattern' => 'drawn', 'roughness' => 0.0], ['facing'], ['seed', 'fineness']],
            [['pattern' => 'drawn', 'roughness' => 0.5], ['seed', 'fineness', 'fibres'], ['pieces']],
            [['pattern' => 'breach', 'shape' => 'ball', 'bands' => 0], ['radius', 'at'], ['axis', 'band', 'facing']],
            [['pattern' => 'breach', 'shape' => 'drawn', 'bands' => 2], ['band', 'facing'], ['radius', 'at']],
            [['pattern' => 'cellular', 'density' => 'weight'], ['densityAt'], ['picture', 'facing', 'reach']],
            [['pattern' => 'cellular', 'density' => 'dark', 'clustering' => 0.2], ['picture', 'facing', 'reach', 'at'], ['densityAt']],
        ];
        $shown = self::module('api/schema.ts', '
            const fields = m.fieldAt(["props", 0, "break"]).properties;
            const plain = m.standard(["props", 0, "break"]);
            return input.map((some) => Object.keys(fields).filter((name) => { const when = m.fieldAt(["props", 0, "break", name])["x-when"]; return !when || m.holds(when, { ...plain, ...some }); }))', array_column($cases, 0));
        foreach ($cases as $k => [$break, $yes, $no]) {
            self::assertSame([], array_diff($yes, $shown[$k]), json_encode($break) . ' shows them');
            self::assertSame([], array_intersect($no, $shown[$k]), json_encode($break) . ' hides them');
        }
    }

    public function testStagesAreSummedUpInWords(): void
    {
        $documents = array_map(static fn (array $d): array => ShotSchema::load()->complete($d), DemoShot::all());
        $said = self::module('shot/summary.ts', '
            const words = {};
            for (const [name, document] of Object.entries(input)) words[name] = ["prop", "break", "timing", "motion", "bake", "handoff"].map((stage) => m.summary(stage, document, document.props[0], { pieces: { count: 12 } }, null));
            const document = Object.values(input)[0];
            const bake = { status: "running", done: 12, frames: 96, stale: false, differences: [] };
            words.bakes = [bake, { ...bake, status: "queued" }, { ...bake, status: "failed" }, { ...bake, status: "done" }, { ...bake, status: "done", stale: true, differences: ["Seed 7 instead of 3"] }].map((b) => [m.summary("bake", document, document.props[0], undefined, b), m.stageState("bake", document.props[0], b)]);
            words.none = m.summary("break", document, undefined, undefined, null);
            words.file = [m.stageState("prop", { source: { kind: "file", asset: "" } }, null), m.stageState("prop", { source: { kind: "file", asset: "ab" } }, null)];
            return words', $documents);
        self::assertSame(['clay grain jar', '12 pieces, cellular, seed 7', 'lets go on contact', 'falls, 1900 kg/m³, floor', 'not baked yet', 'after the bake'], $said['Jar off the sill']);
        foreach (array_keys($documents) as $name) {
            foreach ($said[$name] as $words) {
                self::assertNotSame('', $words);
                self::assertStringNotContainsString('undefined', $words, $name);
                self::assertStringNotContainsString('NaN', $words, $name);
            }
        }
        self::assertSame([['12 of 96 frames', 'empty'], ['waiting for a worker', 'empty'], ['failed', 'empty'], ['96 frames', 'baked'], ['stale: Seed 7 instead of 3', 'stale']], $said['bakes']);
        self::assertSame('', $said['none']);
        self::assertSame(['empty', 'ready'], $said['file']);
    }

    /** Selected pieces are joined one by one, each to one that it touches; not at all if they do not hang together. */
    public function testPiecesAreJoinedInAnOrderThatWorks(): void
    {
        $seen = self::module('stages/pieces.ts', '
            const facts = { volumes: [1, 1, 1, 1, 1, 1], touching: [[0, 1, 0.5], [1, 2, 0.25], [2, 3, 0.125], [4, 5, 1]] };
            return { neighbours: m.neighboursOf(facts).map((n) => [...n]), chain: m.joinOrder([3, 1, 2], facts), apart: m.joinOrder([0, 1, 4], facts), one: m.joinOrder([2], facts) }');
        self::assertEquals([[[1, 0.5]], [[0, 0.5], [2, 0.25]], [[1, 0.25], [3, 0.125]], [[2, 0.125]], [[5, 1]], [[4, 1]]], $seen['neighbours']);
        self::assertSame([[2, 3], [1, 2]], $seen['chain']);
        self::assertNull($seen['apart']);
        self::assertNull($seen['one']);
    }
}
