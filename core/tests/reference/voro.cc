// Voronoi cells of sites in the unit box by voro++ (Rycroft 2009), with all digits: "i volume faces" a line.
// Input: count, then x y z a line. Built by the test: g++ -O1 voro.cc -lvoro++
#include <cstdio>
#include <voro++/voro++.hh>

int main() {
    int n;
    if (std::scanf("%d", &n) != 1) return 1;
    voro::container box(0, 1, 0, 1, 0, 1, 6, 6, 6, false, false, false, 8);
    for (int i = 0; i < n; i++) {
        double x, y, z;
        if (std::scanf("%lf %lf %lf", &x, &y, &z) != 3) return 1;
        box.put(i, x, y, z);
    }
    voro::voronoicell cell;
    voro::c_loop_all loop(box);
    if (loop.start()) do {
        if (box.compute_cell(cell, loop)) std::printf("%d %.17g %d\n", loop.pid(), cell.volume(), cell.number_of_faces());
    } while (loop.inc());
}
