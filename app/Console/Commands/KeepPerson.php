<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Models\Person;
use App\Models\Shot;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\DB;

/** Who may sign in where Yard Break is reached beyond this machine. */
final class KeepPerson extends Command
{
    private const SHORTEST = 10;

    protected $signature = 'yard:person
        {name? : Name; none lists all}
        {--remove : Takes the person out}
        {--to= : Whose the shots of the one who is taken out are then}
        {--everybody : They are everybody\'s then}';

    protected $description = 'Let somebody sign in, give them another password, or take them out';

    public function handle(): int
    {
        $name = $this->argument('name');
        if (! is_string($name)) {
            Person::query()->orderBy('name')->pluck('name')->each(fn (mixed $one) => $this->line(is_string($one) ? $one : ''));

            return self::SUCCESS;
        }
        if ($this->option('remove')) {
            return $this->remove($name);
        }
        if (preg_match('/^[\pL\pN][\pL\pN ._@-]{0,39}$/uD', $name) !== 1) {
            return $this->refused('A name has 1 to 40 letters, digits, spaces, dots, dashes, underscores or @, and begins with a letter or digit.');
        }
        // Typed unseen, or one line from a pipe.
        $password = $this->input->isInteractive() && stream_isatty(STDIN) ? $this->secret('Password') : rtrim((string) fgets(STDIN), "\r\n");
        if (! is_string($password) || mb_strlen($password) < self::SHORTEST) {
            return $this->refused('A password has at least ' . self::SHORTEST . ' characters.');
        }
        $known = Person::query()->where('name', $name)->exists();
        $person = Person::query()->updateOrCreate(['name' => $name], ['password' => $password]);
        // Whoever is inside with the old one has to come in again.
        DB::table('sessions')->where('user_id', $person->id)->delete();
        $this->line($known ? "{$name} has a new password." : "{$name} can sign in.");

        return self::SUCCESS;
    }

    private function remove(string $name): int
    {
        $person = Person::query()->where('name', $name)->first();
        if ($person === null) {
            return $this->refused("There is nobody called {$name}.");
        }
        $shots = Shot::withTrashed()->where('owner_id', $person->id);
        $count = $shots->count();
        $to = $this->option('to');
        if (is_string($to) && $this->option('everybody') === true) {
            return $this->refused('Shots go to somebody (--to=NAME) or to --everybody, not to both.');
        }
        $heir = is_string($to) ? Person::query()->where('name', $to)->whereKeyNot($person->id)->first() : null;
        if (is_string($to) && $heir === null) {
            return $this->refused("There is nobody else called {$to}.");
        }
        // Nobody said of a shot of theirs that all may see it.
        if ($count > 0 && $heir === null && $this->option('everybody') !== true) {
            return $this->refused("{$name} has {$count} shots, deleted ones among them. Say whose they are then: --to=NAME or --everybody.");
        }
        DB::transaction(static function () use ($person, $shots, $heir): void {
            $shots->update(['owner_id' => $heir?->id]);
            DB::table('sessions')->where('user_id', $person->id)->delete();
            $person->delete();
        });
        $this->line("{$name} is out" . match (true) {
            $count === 0 => '.',
            $heir !== null => "; their shots are {$heir->name}'s.",
            default => "; their shots are everybody's.",
        });

        return self::SUCCESS;
    }

    private function refused(string $why): int
    {
        $this->error($why);

        return ComputeCommand::BAD_INPUT;
    }
}
