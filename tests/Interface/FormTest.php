<?php

declare(strict_types=1);

namespace Tests\Interface;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\DemoShot;
use YardBreak\Core\Document\Schema;
use YardBreak\Core\Document\Shot;

/** Forms and words that are made from the document: they must say what the server would. */
#[Group('thorough')]
final class FormTest extends TestCase
{
    use Modules;

    /** A new prop of the form is the one that the server would complete. */
    public function testDefaultsAreTheServers(): void
    {
        $forms = self::module('api/schema.ts', 'return { prop: m.standard(["props", 0]), web: m.standard(["props", 0, "break", "web"]), edit: m.standard(["props", 0, "break", "edits", 0, "with"]), plane: m.standard(["planes", 0]), force: m.standard(["forces", 0]), layer: m.standard(["props", 0, "weight", "stack", 0]) }');
        $full = Schema::load()->complete(['version' => 2, 'props' => [['id' => 'a', 'name' => 'A', 'break' => ['pattern' => 'web', 'edits' => [['kind' => 'again', 'at' => [0, 0, 0]]]], 'weight' => ['stack' => [[]]]]]]);
        self::assertIsArray($full['props']);
        $prop = $full['props'][0];
        foreach (['source', 'prepare', 'position', 'release', 'motion', 'look'] as $part) {
            self::assertEquals($prop[$part], $forms['prop'][$part], $part);
        }
        self::assertEquals($prop['break']['web'], $forms['web']);
        self::assertEquals($prop['break']['edits'][0]['with'], $forms['edit']);
        self::assertEquals($prop['weight']['stack'][0], $forms['layer']);
        self::assertEquals(array_diff_key($full['planes'][0], ['id' => 0, 'name' => 0]), $forms['plane']);
        self::assertEquals(array_diff_key($full['forces'][0], ['id' => 0, 'name' => 0]), $forms['force']);
    }

    /** Settings come and go with what they depend on. */
    public function testOnlyWhatMattersIsShown(): void
    {
        $cases = [
            [['pattern' => 'halving', 'halving' => ['count' => 0]], ['rounds', 'count', 'seed', 'wander'], []],
            [['pattern' => 'halving', 'halving' => ['count' => 12]], ['count'], ['rounds']],
            [['pattern' => 'grain', 'grain' => ['places' => []]], ['axis', 'slenderness'], []],
            [['pattern' => 'grain', 'grain' => ['places' => [['x' => 0, 'y' => 0, 'z' => 0], ['x' => 1, 'y' => 0, 'z' => 0]]]], ['places'], ['axis']],
            [['pattern' => 'flakes'], ['count', 'thickness'], ['fibres', 'fineness', 'smallest']],
            [['pattern' => 'drawn'], ['facing', 'roughness'], ['seed', 'fineness']],
            [['pattern' => 'drawn', 'finish' => ['roughness' => 0.5]], ['seed', 'fineness', 'fibres'], []],
            [['pattern' => 'breach', 'breach' => ['shape' => 'ball', 'bands' => 0]], ['radius', 'at'], ['axis', 'band', 'facing']],
            [['pattern' => 'breach', 'breach' => ['shape' => 'drawn', 'bands' => 2]], ['band', 'facing'], ['radius', 'at']],
            [['pattern' => 'cellular', 'cellular' => ['density' => 'weight']], ['densityAt'], ['picture', 'facing', 'reach']],
            [['pattern' => 'cellular', 'cellular' => ['density' => 'dark', 'clustering' => 0.2]], ['picture', 'facing', 'reach', 'at'], ['densityAt']],
        ];
        $documents = array_map(static fn (array $case): array => Schema::load()->complete(['version' => 2, 'props' => [['id' => 'a', 'name' => 'A', 'break' => $case[0]]]]), $cases);
        $shown = self::module('api/schema.ts', '
            return input.map((document) => {
                const prop = document.props[0];
                const of = (path, owner) => Object.keys(m.fieldAt(path).properties).filter((name) => { const when = m.fieldAt([...path, name])["x-when"]; return !when || m.holds(when, owner, prop); });
                const pattern = prop.break.pattern;
                const finish = m.fieldAt(["props", 0, "break", "finish"])["x-when"];
                return [...of(["props", 0, "break", pattern], prop.break[pattern]), ...m.holds(finish, prop.break, prop) ? of(["props", 0, "break", "finish"], prop.break.finish) : []];
            })', $documents);
        foreach ($cases as $k => [$break, $yes, $no]) {
            self::assertSame([], array_diff($yes, $shown[$k]), json_encode($break) . ' shows them');
            self::assertSame([], array_intersect($no, $shown[$k]), json_encode($break) . ' hides them');
            // The server means the same.
            $server = Shot::read($documents[$k])->props[0]->pattern->settings->inForce();
            self::assertSame([], array_diff(array_keys($server), $shown[$k], ['lines']));
        }
    }

    public function testStagesAreSummedUpInWords(): void
    {
        $documents = array_map(static fn (array $d): array => Schema::load()->complete($d), DemoShot::all());
        $said = self::module('shot/summary.ts', '
            const words = {};
            for (const [name, document] of Object.entries(input)) words[name] = ["prop", "break", "timing", "motion", "bake", "handoff"].map((stage) => m.summary(stage, document, document.props[0], { pieces: { count: 12 } }, null));
            const document = Object.values(input)[0];
            const bake = { status: "running", done: 12, frames: 96, stale: false, differences: [] };
            words.bakes = [bake, { ...bake, status: "queued" }, { ...bake, status: "failed" }, { ...bake, status: "done" }, { ...bake, status: "done", stale: true, differences: ["Seed 7 instead of 3"] }].map((b) => [m.summary("bake", document, document.props[0], undefined, b), m.stageState("bake", document.props[0], b)]);
            words.none = m.summary("break", document, undefined, undefined, null);
            words.file = [m.stageState("prop", { source: { kind: "file", file: { asset: "" } } }, null), m.stageState("prop", { source: { kind: "file", file: { asset: "ab" } } }, null)];
            return words', $documents);
        self::assertSame(['clay grain jar', '12 pieces, cellular, seed 7', 'lets go on contact', 'falls whole, 1900 kg/m³, floor', 'not baked yet', 'after the bake'], $said['Jar off the sill']);
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
