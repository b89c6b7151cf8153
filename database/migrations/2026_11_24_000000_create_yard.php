<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class () extends Migration {
    public function up(): void
    {
        Schema::create('shots', function (Blueprint $table): void {
            $table->ulid('id')->primary();
            $table->string('name', 80);
            $table->ulid('head_id')->nullable();
            $table->timestamps();
            $table->softDeletes();
        });
        Schema::create('revisions', function (Blueprint $table): void {
            $table->ulid('id')->primary();
            $table->foreignUlid('shot_id')->constrained()->cascadeOnDelete();
            $table->ulid('parent_id')->nullable()->index();
            $table->unsignedInteger('number');
            $table->json('document');
            $table->string('summary', 400);
            $table->timestamp('created_at', 3);
            $table->unique(['shot_id', 'number']);
        });
        Schema::create('assets', function (Blueprint $table): void {
            $table->char('sha256', 64)->primary();
            $table->string('name', 200);
            $table->unsignedBigInteger('bytes');
            $table->timestamps();
        });
        Schema::create('bakes', function (Blueprint $table): void {
            $table->ulid('id')->primary();
            $table->foreignUlid('shot_id')->constrained()->cascadeOnDelete();
            $table->foreignUlid('revision_id')->constrained('revisions');
            $table->char('motion_hash', 64);
            $table->string('status', 12)->index();
            $table->unsignedInteger('frames');
            $table->unsignedInteger('frames_done')->default(0);
            $table->unsignedInteger('pieces')->default(0);
            $table->string('error', 1000)->nullable();
            $table->uuid('owner')->nullable();
            $table->double('lease_until')->default(0);
            $table->boolean('cancel')->default(false);
            $table->double('started_at')->nullable();
            $table->double('finished_at')->nullable();
            $table->timestamps();
        });
        Schema::create('jobs', function (Blueprint $table): void {
            $table->id();
            $table->string('queue')->index();
            $table->longText('payload');
            $table->unsignedTinyInteger('attempts');
            $table->unsignedInteger('reserved_at')->nullable();
            $table->unsignedInteger('available_at');
            $table->unsignedInteger('created_at');
        });
        Schema::create('failed_jobs', function (Blueprint $table): void {
            $table->id();
            $table->string('uuid')->unique();
            $table->text('connection');
            $table->text('queue');
            $table->longText('payload');
            $table->longText('exception');
            $table->timestamp('failed_at')->useCurrent();
        });
    }

    public function down(): void
    {
        foreach (['failed_jobs', 'jobs', 'bakes', 'assets', 'revisions', 'shots'] as $table) {
            Schema::dropIfExists($table);
        }
    }
};
