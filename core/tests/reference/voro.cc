// Voronoi cells of sites in the unit box by voro++ (Rycroft 2009), with all digits: "i volume neighbour neighbour ..." a line
// (walls have negative numbers). Input: count, then x y z a line. Built by the test: g++ -O1 voro.cc -lvoro++
#include <algorithm>
#include <cmath>
#include <cstdio>
#include <vector>
#include <voro++/voro++.hh>

int main() {
    int n;
    if (std::scanf("%d", &n) != 1) return 1;
    int blocks = std::max(1, (int) std::ceil(std::cbrt(n / 5.6)));
    voro::container box(0, 1, 0, 1, 0, 1, blocks, blocks, blocks, false, false, false, 8);
    for (int i = 0; i < n; i++) {
        double x, y, z;
        if (std::scanf("%lf %lf %lf", &x, &y, &z) != 3) return 1;
        box.put(i, x, y, z);
    }
    voro::voronoicell_neighbor cell;
    voro::c_loop_all loop(box);
    if (loop.start()) do {
        if (!box.compute_cell(cell, loop)) continue;
        std::vector<int> neighbours;
        cell.neighbors(neighbours);
        std::printf("%d %.17g", loop.pid(), cell.volume());
        for (int j : neighbours) std::printf(" %d", j);
        std::printf("\n");
    } while (loop.inc());
}
