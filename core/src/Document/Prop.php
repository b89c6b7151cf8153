<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

/** One thing in the shot; what each setting does is said in the schema. */
final readonly class Prop
{
    /**
     * @param string $pointer JSON Pointer to it
     * @param bool $on whether it is in the shot; one that is not still has places and weights that others can ask for
     * @param Choice $source where its mesh comes from
     * @param Settings $prepare how the mesh is made fit
     * @param Settings $played how it plays what moves in its file
     * @param Choice $pattern how it comes apart
     * @param Settings $break all of the break: finish, prefix, edits
     * @param list<PieceEdit> $edits
     * @param Mix $weight by which it lets go
     * @param array<string, Mix> $weights further ones, by id
     * @param Choice $trigger when it lets go
     * @param Choice $mover what becomes of what has let go
     * @param array<string, Prop> $others the other props of its shot, by id; they in turn know of none
     * @param Timeline $time frames of its shot
     */
    private function __construct(
        public string $id,
        public string $pointer,
        public string $name,
        public bool $on,
        public Choice $source,
        public Settings $prepare,
        public Settings $played,
        public Transform $transform,
        public Choice $pattern,
        public Settings $break,
        public array $edits,
        public Mix $weight,
        public array $weights,
        public Choice $trigger,
        public Choice $mover,
        public Settings $look,
        public array $others = [],
        public Timeline $time = new Timeline(),
    ) {
    }

    /** @param list<self> $props of its shot */
    public function among(array $props, Timeline $time): self
    {
        $others = array_filter(array_column($props, null, 'id'), fn (string $id): bool => $id !== $this->id, ARRAY_FILTER_USE_KEY);

        return new self(
            $this->id,
            $this->pointer,
            $this->name,
            $this->on,
            $this->source,
            $this->prepare,
            $this->played,
            $this->transform,
            $this->pattern,
            $this->break,
            $this->edits,
            $this->weight,
            $this->weights,
            $this->trigger,
            $this->mover,
            $this->look,
            $others,
            $time,
        );
    }

    /** @throws BadDocument */
    public static function read(Settings $settings): self
    {
        $break = $settings->at('break');
        $mover = $settings->at('motion')->choice('mover');

        return new self(
            $settings->string('id'),
            $settings->pointer(),
            $settings->string('name'),
            $settings->bool('on'),
            $settings->at('source')->choice('kind'),
            $settings->at('prepare'),
            $settings->at('played'),
            Transform::read($settings),
            $break->choice('pattern'),
            $break,
            array_map(PieceEdit::read(...), $break->list('edits')),
            Mix::read('', 'Weight', $settings->at('weight')),
            self::named($settings),
            $settings->at('release')->choice('trigger'),
            $mover,
            $settings->at('look'),
        );
    }

    /**
     * @return array<string, Mix> by id
     *
     * @throws BadDocument
     */
    private static function named(Settings $settings): array
    {
        $weights = [];
        foreach ($settings->list('weights') as $weight) {
            $id = $weight->string('id');
            if (isset($weights[$id])) {
                throw $weight->wrong('id', 'Two weights have the same id.');
            }
            $weights[$id] = Mix::read($id, $weight->string('name'), $weight);
        }

        return $weights;
    }

    public function isWhole(): bool
    {
        return $this->pattern->has('whole');
    }

    /** Whether only the skin comes off; then the mesh need not be closed. */
    public function isSkin(): bool
    {
        return $this->pattern->has('skin');
    }

    /** Whether it plays what moves in its file. */
    public function plays(): bool
    {
        return $this->source->has('moves') && $this->mover->has('plays') && $this->played->bool('on');
    }

    /** Whether it moves by itself from the first frame on. */
    public function startsFree(): bool
    {
        return $this->mover->has('startsFree');
    }

    public function neverLetsGo(): bool
    {
        return $this->trigger->has('never');
    }

    /** The weight that says how far each place is held while it has not let go; without a source: wholly. */
    public function held(): Mix
    {
        return new Mix('hold', 'Hold', $this->mover->has('held') ? $this->mover->settings->list('hold') : []);
    }

    /**
     * All its weights: by which it lets go, by which it is held, and further ones.
     *
     * @return array<string, Mix> by the JSON Pointer of their sources, seen from the prop
     */
    public function mixes(): array
    {
        $mixes = ['/weight/stack' => $this->weight];
        if (! $this->held()->isEmpty()) {
            $mixes["/motion/{$this->mover->kind}/hold"] = $this->held();
        }
        foreach (array_values($this->weights) as $k => $mix) {
            $mixes["/weights/{$k}/stack"] = $mix;
        }

        return $mixes;
    }

    /** What others call its pieces. */
    public function prefix(): string
    {
        $prefix = $this->break->string('prefix');

        return $prefix === '' ? 'piece' : $prefix;
    }
}
