<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

/** A weight as the document says it: its sources, and how what they give is shaped. */
final readonly class Mix
{
    /**
     * @param string $id "" for the one that a prop lets go by
     * @param list<Settings> $stack sources, the first one first
     * @param Settings|null $shape how it follows them; null: as they are
     */
    public function __construct(public string $id, public string $name, public array $stack, public ?Settings $shape = null)
    {
    }

    public static function read(string $id, string $name, Settings $settings): self
    {
        return new self($id, $name, $settings->list('stack'), $settings);
    }

    /** Without a source it is 0 everywhere. */
    public function isEmpty(): bool
    {
        return $this->stack === [];
    }

    /** Only one of its sources, as it is. */
    public function alone(int $layer): self
    {
        return new self($this->id, $this->name, array_slice($this->stack, $layer, 1));
    }
}
