<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class () extends Migration {
    public function up(): void
    {
        Schema::create('people', function (Blueprint $table): void {
            $table->ulid('id')->primary();
            $table->string('name', 40)->unique();
            $table->string('password');
            $table->timestamps();
        });
        // A shot without an owner is everybody's: those of the demo, and those made before anybody signed in.
        Schema::table('shots', function (Blueprint $table): void {
            $table->foreignUlid('owner_id')->nullable()->constrained('people')->nullOnDelete();
        });
        Schema::create('shared_shots', function (Blueprint $table): void {
            $table->foreignUlid('shot_id')->constrained()->cascadeOnDelete();
            $table->foreignUlid('person_id')->constrained('people')->cascadeOnDelete();
            $table->primary(['shot_id', 'person_id']);
        });
        Schema::create('brought_assets', function (Blueprint $table): void {
            $table->char('sha256', 64);
            $table->foreignUlid('person_id')->constrained('people')->cascadeOnDelete();
            $table->primary(['sha256', 'person_id']);
        });
        Schema::create('sessions', function (Blueprint $table): void {
            $table->string('id')->primary();
            $table->ulid('user_id')->nullable()->index();
            $table->string('ip_address', 45)->nullable();
            $table->text('user_agent')->nullable();
            $table->longText('payload');
            $table->integer('last_activity')->index();
        });
    }

    public function down(): void
    {
        foreach (['sessions', 'brought_assets', 'shared_shots'] as $table) {
            Schema::dropIfExists($table);
        }
        Schema::table('shots', fn (Blueprint $table) => $table->dropConstrainedForeignId('owner_id'));
        Schema::dropIfExists('people');
    }
};
