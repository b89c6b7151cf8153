<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

/** What holds a prop's pieces to another prop or to a place. */
final readonly class Joint
{
    /**
     * @param string $pointer JSON Pointer to it
     * @param string $prop id of the prop that it holds
     * @param string $other id of the one that it hangs on; empty: a place
     * @param float $strength above which it breaks, N; INF: never
     * @param bool $touch whether the two touch each other
     * @param int|null $cut frame from which it holds no more; null: none
     */
    private function __construct(
        public string $id,
        public string $pointer,
        public string $name,
        public Choice $kind,
        public string $prop,
        public string $other,
        public float $strength,
        public bool $touch,
        public ?int $cut,
    ) {
    }

    /**
     * @return self|null null: it is switched off
     *
     * @throws BadDocument if its cue is not there
     */
    public static function read(Settings $settings): ?self
    {
        $strength = $settings->float('strength');

        return $settings->bool('on') ? new self(
            $settings->string('id'),
            $settings->pointer(),
            $settings->string('name'),
            $settings->choice('joint'),
            $settings->string('prop'),
            $settings->string('other'),
            $strength > 0.0 ? $strength : INF,
            $settings->bool('touch'),
            match ($settings->string('cut')) {
                'frame' => $settings->int('frame'),
                'cue' => $settings->cue('cue'),
                default => null,
            },
        ) : null;
    }

    /** @return list<mixed> all that decides it but when it is cut */
    public function inputs(): array
    {
        return [$this->id, $this->kind->kind, $this->kind->settings->inForce(), $this->prop, $this->other, $this->strength === INF ? null : $this->strength, $this->touch];
    }
}
