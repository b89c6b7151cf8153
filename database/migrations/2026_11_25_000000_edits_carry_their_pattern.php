<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Support\Facades\DB;

/** A piece that is broken again used to carry a count and a seed; now it carries a whole pattern. */
return new class () extends Migration {
    public function up(): void
    {
        foreach (DB::table('revisions')->select('id', 'document')->cursor() as $row) {
            $document = json_decode((string) $row->document, true);
            if (! is_array($document)) {
                continue;
            }
            $changed = false;
            foreach ($document['props'] ?? [] as $k => $prop) {
                foreach ($prop['break']['edits'] ?? [] as $e => $edit) {
                    if (! isset($edit['pieces']) && ! isset($edit['seed'])) {
                        continue;
                    }
                    $with = ['pattern' => 'cellular', 'pieces' => $edit['pieces'] ?? 6, 'seed' => $edit['seed'] ?? 1, 'evenness' => 0.3];
                    unset($edit['pieces'], $edit['seed']);
                    $document['props'][$k]['break']['edits'][$e] = $edit + ($edit['kind'] === 'again' ? ['with' => $with] : []);
                    $changed = true;
                }
            }
            if ($changed) {
                DB::table('revisions')->where('id', $row->id)->update(['document' => json_encode($document)]);
            }
        }
    }
};
