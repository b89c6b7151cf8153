<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Files for other departments that take a while to write. */
return new class () extends Migration {
    public function up(): void
    {
        Schema::create('exports', function (Blueprint $table): void {
            $table->ulid('id')->primary();
            $table->ulid('bake_id')->index();
            $table->string('format');
            $table->unsignedInteger('frame');
            $table->string('status');
            $table->unsignedInteger('done')->default(0);
            $table->unsignedInteger('total')->default(0);
            $table->string('owner')->nullable();
            $table->text('error')->nullable();
            $table->double('started_at')->nullable();
            $table->timestamps();
        });
    }

    public function down(): void
    {
        Schema::drop('exports');
    }
};
