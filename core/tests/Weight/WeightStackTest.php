<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Weight;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Math\Animated;
use YardBreak\Core\Weight\Samples;
use YardBreak\Core\Weight\WeightSource;
use YardBreak\Core\Weight\WeightStack;

/** Sources mixed: what each way of mixing means, worked out by hand. */
final class WeightStackTest extends TestCase
{
    /** @param list<float> $values at three places */
    private static function source(array $values): WeightSource
    {
        return new class ($values) implements WeightSource {
            /** @param list<float> $values */
            public function __construct(private readonly array $values)
            {
            }

            public function evaluate(Samples $at, float $frame): array
            {
                return $this->values;
            }

            public function still(): array
            {
                return $this->values;
            }

            public function sample(float $frame): array
            {
                return [];
            }
        };
    }

    /** @return iterable<string, array{string, float, bool, list<float>}> how, amount, inverted, what comes of 0.2, 0.5, 0.9 and then 0.6, 0.6, 0.6 */
    public static function mixes(): iterable
    {
        yield 'the larger' => ['larger', 1.0, false, [0.6, 0.6, 0.9]];
        yield 'the smaller' => ['smaller', 1.0, false, [0.2, 0.5, 0.6]];
        yield 'adding, no more than all' => ['add', 1.0, false, [0.8, 1.0, 1.0]];
        yield 'subtracting, no less than nothing' => ['subtract', 1.0, false, [0.0, 0.0, 0.3]];
        yield 'multiplying' => ['multiply', 1.0, false, [0.12, 0.3, 0.54]];
        yield 'half of it added' => ['add', 0.5, false, [0.5, 0.8, 1.0]];
        yield 'half of it multiplied: half way to the product' => ['multiply', 0.5, false, [0.16, 0.4, 0.72]];
        yield 'none of it multiplied changes nothing' => ['multiply', 0.0, false, [0.2, 0.5, 0.9]];
        yield 'none of it added changes nothing' => ['add', 0.0, false, [0.2, 0.5, 0.9]];
        yield 'inverted' => ['larger', 1.0, true, [0.4, 0.5, 0.9]];
        yield 'inverted and halved' => ['subtract', 0.5, true, [0.0, 0.3, 0.7]];
    }

    /** @param list<float> $expected */
    #[DataProvider('mixes')]
    public function testMixing(string $mix, float $amount, bool $invert, array $expected): void
    {
        $stack = new WeightStack([[self::source([0.2, 0.5, 0.9]), 'subtract', Animated::constant(1.0), false], [self::source([0.6, 0.6, 0.6]), $mix, Animated::constant($amount), $invert]]);
        self::assertEqualsWithDelta($expected, $stack->evaluate(Samples::of([[0, 0, 0], [1, 0, 0], [2, 0, 0]]), 1.0), 1e-12);
    }

    public function testTheFirstStandsForItselfHoweverItIsToBeMixed(): void
    {
        $at = Samples::of([[0, 0, 0], [1, 0, 0], [2, 0, 0]]);
        foreach (['larger', 'smaller', 'add', 'subtract', 'multiply'] as $mix) {
            self::assertEqualsWithDelta([0.2, 0.5, 0.9], (new WeightStack([[self::source([0.2, 0.5, 0.9]), $mix, Animated::constant(1.0), false]]))->evaluate($at, 1.0), 1e-12, $mix);
            self::assertEqualsWithDelta([0.4, 0.25, 0.05], (new WeightStack([[self::source([0.2, 0.5, 0.9]), $mix, Animated::constant(0.5), true]]))->evaluate($at, 1.0), 1e-12, $mix);
        }
    }

    /** Subtracted after adding is not added after subtracting: what has been cut off at 0 or 1 stays cut off. */
    public function testTheOrderMatters(): void
    {
        $at = Samples::of([[0, 0, 0]]);
        $base = [self::source([0.7]), 'larger', Animated::constant(1.0), false];
        $more = [self::source([0.6]), 'add', Animated::constant(1.0), false];
        $less = [self::source([0.5]), 'subtract', Animated::constant(1.0), false];
        self::assertEqualsWithDelta([0.5], (new WeightStack([$base, $more, $less]))->evaluate($at, 1.0), 1e-12);
        self::assertEqualsWithDelta([0.8], (new WeightStack([$base, $less, $more]))->evaluate($at, 1.0), 1e-12);
    }

    /** A source whose amount is keyed comes and goes. */
    public function testAnAmountMayChangeOverTime(): void
    {
        $at = Samples::of([[0, 0, 0]]);
        $amount = Animated::keyed([[10.0, 0.0, 'linear'], [20.0, 1.0, 'linear']]);
        $stack = new WeightStack([[self::source([0.25]), 'larger', Animated::constant(1.0), false], [self::source([0.5]), 'add', $amount, false]]);
        self::assertEqualsWithDelta([0.25], $stack->evaluate($at, 5.0), 1e-12);
        self::assertEqualsWithDelta([0.45], $stack->evaluate($at, 14.0), 1e-12);
        self::assertEqualsWithDelta([0.75], $stack->evaluate($at, 30.0), 1e-12);
        // What has acted is told apart by it.
        self::assertNotSame($stack->sample(14.0), $stack->sample(15.0));
        self::assertSame($stack->sample(25.0), $stack->sample(30.0));
    }

    public function testWithoutSourcesItIsNothingEverywhere(): void
    {
        self::assertSame([0.0, 0.0], (new WeightStack([]))->evaluate(Samples::of([[0, 0, 0], [1, 1, 1]]), 50.0));
    }
}
