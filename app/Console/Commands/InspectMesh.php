<?php

declare(strict_types=1);

namespace App\Console\Commands;

use YardBreak\Core\Format\MeshReader;
use YardBreak\Core\Mesh\Health;

final class InspectMesh extends ComputeCommand
{
    protected $signature = 'yard:inspect {file : Mesh file (OBJ, STL, PLY or GLB)}';

    protected $description = 'Say what a mesh file holds and whether it can be broken';

    protected function compute(): array
    {
        $file = $this->text('file');
        $mesh = MeshReader::read($file, basename($file));

        return ['file' => $file] + Health::of($mesh);
    }
}
