<?php

declare(strict_types=1);

namespace App\Providers;

use App\Remote\Board;
use App\Remote\Depot;
use App\Remote\DepotAssets;
use App\Remote\Presence;
use App\Support\BakeRescue;
use App\Support\Computing;
use App\Support\EagerSqlite;
use App\Support\FileAssets;
use App\Support\FileStageStore;
use App\Support\StoreKeeper;
use Illuminate\Contracts\Foundation\Application;
use Illuminate\Database\Connection;
use Illuminate\Queue\Events\Looping;
use Illuminate\Routing\UrlGenerator;
use Illuminate\Support\Facades\Event;
use Illuminate\Support\Facades\Redis;
use Illuminate\Support\Facades\Storage;
use Illuminate\Support\ServiceProvider;
use YardBreak\Core\Stage\Assets;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\StageStore;

final class AppServiceProvider extends ServiceProvider
{
    public function register(): void
    {
        Connection::resolverFor('sqlite', static fn (mixed ...$of): EagerSqlite => new EagerSqlite(...$of));
        $this->app->singleton(Computing::class, fn (): Computing => new Computing(config()->string('yard.store') . '/computing', config()->integer('yard.computing')));
        $this->app->bind(StageStore::class, fn (Application $app): StageStore => new FileStageStore(config()->string('yard.store') . '/stages', $app->make(Computing::class)));
        $this->app->bind(FileAssets::class, fn (): FileAssets => new FileAssets(config()->string('yard.store') . '/assets'));
        $this->app->bind(Depot::class, static fn (): Depot => new Depot(Storage::disk(config()->string('yard.depot'))));
        $this->app->bind(Board::class, static fn (): Board => new Board(Redis::connection()));
        $this->app->bind(Assets::class, static fn (Application $app): Assets => $app->make(config()->boolean('yard.remote') ? DepotAssets::class : FileAssets::class));
        $this->app->bind(Pipeline::class);
    }

    public function boot(): void
    {
        $url = config()->string('yard.url');
        if ($url !== '') {
            // Links and redirections lead to what is in the address bar, whatever the server listens on.
            $urls = $this->app->make(UrlGenerator::class);
            $urls->forceRootUrl($url);
            $urls->forceScheme((string) parse_url($url, PHP_URL_SCHEME));
        }
        Event::listen(Looping::class, BakeRescue::nowAndThen(...));
        Event::listen(Looping::class, StoreKeeper::nowAndThen(...));
        Event::listen(Looping::class, Presence::nowAndThen(...));
    }
}
