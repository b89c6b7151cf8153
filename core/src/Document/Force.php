<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

/** A force of the shot, and what it acts on. */
final readonly class Force
{
    /**
     * @param string $pointer JSON Pointer to it
     * @param list<string> $props ids of those that feel it; none: all
     * @param bool $byWeight whether what feels it does so only as far as its weight has come
     */
    private function __construct(public string $id, public string $pointer, public string $name, public Choice $kind, public array $props, public bool $byWeight)
    {
    }

    /** @return self|null null: it is switched off */
    public static function read(Settings $settings): ?self
    {
        return $settings->bool('on') ? new self(
            $settings->string('id'),
            $settings->pointer(),
            $settings->string('name'),
            $settings->choice('force'),
            $settings->strings('props'),
            $settings->bool('byWeight'),
        ) : null;
    }

    public function actsOn(Prop $prop): bool
    {
        return $this->props === [] || in_array($prop->id, $this->props, true);
    }
}
