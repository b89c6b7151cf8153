<?php

declare(strict_types=1);

namespace YardBreak\Core\Shot;

use YardBreak\Core\Math\Animated;

/** A shot document as values: checked, complete, with cues resolved to frames. */
final readonly class Shot
{
    /**
     * @param array<string, array{name: string, frame: int}> $cues by id
     * @param list<Prop> $props
     */
    private function __construct(
        public float $fps,
        public int $frames,
        public Animated $gravity,
        public bool $floorOn,
        public float $floorHeight,
        public float $floorFriction,
        public float $floorBounce,
        public float $settleSpeed,
        public array $cues,
        public array $props,
    ) {
    }

    /** @throws BadDocument */
    public static function read(mixed $document): self
    {
        $fields = new Fields(ShotSchema::load()->complete($document), '');
        $cues = [];
        foreach ($fields->list('cues') as $cue) {
            if (isset($cues[$cue->string('id')])) {
                throw $cue->wrong('id', 'Two cues have the same id.');
            }
            $cues[$cue->string('id')] = ['name' => $cue->string('name'), 'frame' => $cue->int('frame')];
        }
        $fields->cues = $cues;
        $props = [];
        $ids = [];
        foreach ($fields->list('props') as $prop) {
            if (isset($ids[$prop->string('id')])) {
                throw $prop->wrong('id', 'Two props have the same id.');
            }
            $ids[$prop->string('id')] = true;
            $props[] = Prop::read($prop);
        }
        $floor = $fields->at('floor');

        return new self(
            $fields->float('fps'),
            $fields->int('frames'),
            $fields->animated('gravity'),
            $floor->bool('on'),
            $floor->float('height'),
            $floor->float('friction'),
            $floor->float('bounce'),
            $fields->float('settleSpeed'),
            $cues,
            $props,
        );
    }

    public function prop(string $id): ?Prop
    {
        foreach ($this->props as $prop) {
            if ($prop->id === $id) {
                return $prop;
            }
        }

        return null;
    }
}
