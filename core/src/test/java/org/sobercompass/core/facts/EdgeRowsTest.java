package org.sobercompass.core.facts;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.TreeSet;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.IntRows;

/** Edges in any order, some of them twice, become rows both ways. */
class EdgeRowsTest {
  private record Edge(int from, int to, int via) implements Comparable<Edge> {
    @Override
    public int compareTo(Edge other) {
      int byEnd = from != other.from ? from - other.from : to - other.to;
      return byEnd != 0 ? byEnd : via - other.via;
    }
  }

  /** Few are sorted by one thread, many by all. */
  @ParameterizedTest
  @ValueSource(ints = {0, 1, 500, 200_000})
  void rowsAscendWithoutRepeatsSeenFromBothEnds(int edges) {
    int rows = 3_000;
    Random random = new Random(edges);
    IntList members = new IntList();
    IntList groups = new IntList();
    IntList vias = new IntList();
    TreeSet<Edge> up = new TreeSet<>();
    TreeSet<Edge> down = new TreeSet<>();
    for (int i = 0; i < edges; i++) {
      // A few members have most of the edges, and the last has none.
      int member = Math.min(random.nextInt(rows - 1), random.nextInt(rows - 1));
      int group = rows - 1 - random.nextInt(200);
      int via = random.nextInt(3);
      members.add(member);
      groups.add(group);
      vias.add(via);
      up.add(new Edge(member, group, via));
      down.add(new Edge(group, member, via));
    }
    MembershipRows made = new EdgeRows(rows, members, groups, vias).rows();
    assertThat(read(made.up(), made.upVia())).isEqualTo(List.copyOf(up));
    assertThat(read(made.down().rows(), made.down().via())).isEqualTo(List.copyOf(down));
  }

  private static List<Edge> read(IntRows rows, byte[] vias) {
    List<Edge> read = new ArrayList<>();
    for (int row = 0; row < rows.rows(); row++) {
      for (int at = rows.start(row); at < rows.end(row); at++) {
        read.add(new Edge(row, rows.at(at), vias[at]));
      }
    }
    return read;
  }
}
