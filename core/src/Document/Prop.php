<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

/** One thing in the shot; what each setting does is said in the schema. */
final readonly class Prop
{
    /**
     * @param Choice $source where its mesh comes from
     * @param Settings $prepare how the mesh is made fit
     * @param Choice $pattern how it comes apart
     * @param Settings $break all of the break: finish, prefix, edits
     * @param list<PieceEdit> $edits
     * @param list<Settings> $stack sources of its weight
     * @param Choice $trigger when it lets go
     * @param Choice $mover what becomes of what has let go
     * @param array<string, Prop> $others the other props of its shot, by id; they in turn know of none
     */
    private function __construct(
        public string $id,
        public string $name,
        public Choice $source,
        public Settings $prepare,
        public Transform $transform,
        public Choice $pattern,
        public Settings $break,
        public array $edits,
        public array $stack,
        public Choice $trigger,
        public Choice $mover,
        public Settings $look,
        public array $others = [],
    ) {
    }

    /** @param list<self> $props of its shot */
    public function among(array $props): self
    {
        $others = array_filter(array_column($props, null, 'id'), fn (string $id): bool => $id !== $this->id, ARRAY_FILTER_USE_KEY);

        return new self(
            $this->id,
            $this->name,
            $this->source,
            $this->prepare,
            $this->transform,
            $this->pattern,
            $this->break,
            $this->edits,
            $this->stack,
            $this->trigger,
            $this->mover,
            $this->look,
            $others,
        );
    }

    /** @throws BadDocument */
    public static function read(Settings $settings): self
    {
        $break = $settings->at('break');
        $mover = $settings->at('motion')->choice('mover');

        return new self(
            $settings->string('id'),
            $settings->string('name'),
            $settings->at('source')->choice('kind'),
            $settings->at('prepare'),
            Transform::read($settings),
            $break->choice('pattern'),
            $break,
            array_map(PieceEdit::read(...), $break->list('edits')),
            $settings->at('weight')->list('stack'),
            $settings->at('release')->choice('trigger'),
            $mover,
            $settings->at('look'),
        );
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

    /** Whether it moves by itself from the first frame on. */
    public function startsFree(): bool
    {
        return $this->mover->has('startsFree');
    }

    public function neverLetsGo(): bool
    {
        return $this->trigger->has('never');
    }

    /** @return list<Settings> sources of the weight that says how far each place is held while it has not let go; none: wholly */
    public function held(): array
    {
        return $this->mover->has('held') ? $this->mover->settings->list('hold') : [];
    }

    /** What others call its pieces. */
    public function prefix(): string
    {
        $prefix = $this->break->string('prefix');

        return $prefix === '' ? 'piece' : $prefix;
    }
}
