<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

/** A shot document as values: checked, complete, with cues resolved to frames. */
final readonly class Shot
{
    /**
     * @param int $preRoll frames that go by before the first
     * @param array<string, array{name: string, frame: int}> $cues by id
     * @param list<Force> $forces those that are switched on
     * @param list<Plane> $planes those that are switched on
     * @param list<Joint> $joints those that are switched on
     * @param list<Prop> $props those that are switched on
     * @param Camera|null $camera null: it has none
     * @param Placing|null $placing null: the result stands where it was computed
     * @param array<string, Prop> $all by id
     */
    private function __construct(
        public float $fps,
        public int $frames,
        public int $firstFrame,
        public int $preRoll,
        public float $settleSpeed,
        public Playing $playing,
        public array $cues,
        public array $forces,
        public array $planes,
        public array $joints,
        public array $props,
        public ?Camera $camera,
        public Lights $lights,
        public ?Placing $placing,
        private array $all,
        private Settings $settings,
    ) {
    }

    /** What a frame is called in files. */
    public function called(int $frame): int
    {
        return $frame + $this->firstFrame - 1;
    }

    /** @throws BadDocument */
    public static function read(mixed $document): self
    {
        $complete = Schema::load()->complete($document);
        $cues = [];
        foreach (self::unique(Settings::of($complete)->list('cues'), 'cues') as $cue) {
            $cues[$cue->string('id')] = ['name' => $cue->string('name'), 'frame' => $cue->int('frame')];
        }
        $settings = Settings::of($complete, $cues);
        $forces = $planes = $joints = [];
        foreach (self::unique($settings->list('forces'), 'forces') as $force) {
            $read = Force::read($force);
            if ($read !== null) {
                $forces[] = $read;
            }
        }
        foreach (self::unique($settings->list('planes'), 'floors') as $plane) {
            $read = Plane::read($plane);
            if ($read !== null) {
                $planes[] = $read;
            }
        }

        foreach (self::unique($settings->list('joints'), 'joints') as $joint) {
            $read = Joint::read($joint);
            if ($read !== null) {
                $joints[] = $read;
            }
        }
        $time = new Timeline($settings->float('fps'), $settings->int('frames'));
        $each = self::unique($settings->list('props'), 'props');
        $props = array_map(Prop::read(...), $each);
        $props = array_map(static fn (Prop $prop): Prop => $prop->among($props, $time), $props);

        return new self(
            $settings->float('fps'),
            $settings->int('frames'),
            $settings->int('firstFrame'),
            $settings->int('preRoll'),
            $settings->float('settleSpeed'),
            Playing::read($settings, $each),
            $cues,
            $forces,
            $planes,
            $joints,
            array_values(array_filter($props, static fn (Prop $prop): bool => $prop->on)),
            Camera::read($settings->at('camera')),
            Lights::read($settings->at('lights')),
            Placing::read($settings->at('placing')),
            array_column($props, null, 'id'),
            $settings,
        );
    }

    /**
     * @param list<Settings> $items
     *
     * @return list<Settings> the same
     *
     * @throws BadDocument if two have the same id
     */
    private static function unique(array $items, string $what): array
    {
        $seen = [];
        foreach ($items as $item) {
            $id = $item->string('id');
            if (isset($seen[$id])) {
                throw $item->wrong('id', "Two {$what} have the same id.");
            }
            $seen[$id] = true;
        }

        return $items;
    }

    /**
     * @return array<string, list<float>> every keyed number at each frame, by JSON Pointer
     *
     * @throws BadDocument
     */
    public function numbers(): array
    {
        return KeyedNumbers::of($this->settings, $this->frames);
    }

    /**
     * @return list<Timed> everything that stands at moments
     *
     * @throws BadDocument
     */
    public function timed(): array
    {
        return Timed::of($this->settings);
    }

    /** @return array<string, Choice> what decides when each cue happens, by its id */
    public function cueMoments(): array
    {
        $moments = [];
        foreach ($this->settings->list('cues') as $cue) {
            $moments[$cue->string('id')] = $cue->at('at')->choice('moment');
        }

        return $moments;
    }

    /** Whether there are any, be they switched on or not. */
    public function hasProps(): bool
    {
        return $this->all !== [];
    }

    /** One of its props, switched on or not. */
    public function prop(string $id): ?Prop
    {
        return $this->all[$id] ?? null;
    }
}
