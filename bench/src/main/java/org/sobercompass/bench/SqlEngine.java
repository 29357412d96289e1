package org.sobercompass.bench;

import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Locale;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.SeparationRule;
import org.sobercompass.core.findings.Side;
import org.sobercompass.core.system.Grant;

/**
 * The flat organization counted by an embedded analytic SQL engine with a recursive query, on the
 * same data in the same run. The engine is there only with the Maven profile {@code sql}.
 */
final class SqlEngine {
  private SqlEngine() {}

  /** Counts and prints; says so when the engine is not there, or gives another answer. */
  static void count(Assessment assessment, PlainArrays.Counts expected) {
    AccessModel model = assessment.model();
    try {
      Class.forName("org.duckdb.DuckDBDriver");
    } catch (ClassNotFoundException e) {
      System.out.println("SQL engine: not there (build with -Psql)");
      return;
    }
    try {
      Path folder = Files.createTempDirectory("sober-sql");
      export(assessment, folder);
      try (Connection db = DriverManager.getConnection("jdbc:duckdb:");
          Statement sql = db.createStatement()) {
        load(sql, folder);
        long begin = System.nanoTime();
        long pairs =
            one(
                sql,
                "create table reach as with recursive r(a, s) as (select m, g from edge where m < "
                    + model.facts().accounts()
                    + " union select r.a, e.g from r join edge e on e.m = r.s) select * from r",
                "select count(*) from reach");
        long permissions =
            one(
                sql,
                "select 1",
                "select count(*) from (select distinct h.a, g.s, p.r from (select a, s from reach"
                    + " union all select distinct m, m from edge where m < "
                    + model.facts().accounts()
                    + ") h join given g on g.t = h.s join gives p on p.s = g.s and p.ro = g.ro)");
        System.out.printf(
            Locale.ROOT,
            "%-58s once %7.1f s%n",
            "SQL engine, recursive query",
            (System.nanoTime() - begin) / 1e9);
        System.out.println(
            "  "
                + pairs
                + " pairs, "
                + permissions
                + " permissions"
                + (pairs == expected.pairs() && permissions == expected.permissions()
                    ? ", the same"
                    : ", NOT the same"));
        separation(sql, assessment);
      }
    } catch (SQLException | IOException e) {
      System.out.println("SQL engine: failed: " + e.getMessage());
    }
  }

  /** The rules of the workspace, of sides of one permission each, per account and anywhere. */
  private static void separation(Statement sql, Assessment assessment) throws SQLException {
    long begin = System.nanoTime();
    long conflicts =
        one(
            sql,
            "create table held as select distinct h.a, g.s, p.r from (select a, s from reach"
                + " union all select distinct m, m from edge where m < "
                + assessment.model().facts().accounts()
                + ") h join given g on g.t = h.s join gives p on p.s = g.s and p.ro = g.ro"
                + " join (select distinct s, r from side) w on w.s = p.s and w.r = p.r",
            "select count(*) from (select i.ru, h.a from held h join side i on i.s = h.s and"
                + " i.r = h.r group by i.ru, h.a, i.n having count(distinct i.si) >= i.n)");
    double seconds = (System.nanoTime() - begin) / 1e9;
    begin = System.nanoTime();
    int ours = Findings.conflicts(assessment).values().stream().mapToInt(Integer::intValue).sum();
    System.out.printf(
        Locale.ROOT,
        "%-58s once %7.1f s, memberships reached before; ours from the start %.1f s%n  %d"
            + " conflicts, %s%n",
        "SQL engine, separation of duties",
        seconds,
        (System.nanoTime() - begin) / 1e9,
        conflicts,
        conflicts == ours ? "the same" : "NOT the same: " + ours);
  }

  private static void load(Statement sql, Path folder) throws SQLException {
    for (String table :
        new String[] {
          "edge(m int, g int)",
          "given(t int, s int, ro int)",
          "gives(s int, ro int, r int)",
          "side(ru int, si int, n int, s int, r int)"
        }) {
      String name = table.substring(0, table.indexOf('('));
      sql.execute("create table " + table);
      sql.execute("copy " + name + " from '" + folder.resolve(name + ".csv") + "' (header false)");
    }
  }

  private static long one(Statement sql, String first, String query) throws SQLException {
    sql.execute(first);
    try (ResultSet row = sql.executeQuery(query)) {
      row.next();
      return row.getLong(1);
    }
  }

  private static void export(Assessment assessment, Path folder) throws IOException {
    AccessModel model = assessment.model();
    Facts facts = model.facts();
    try (BufferedWriter edge = Files.newBufferedWriter(folder.resolve("edge.csv"));
        BufferedWriter given = Files.newBufferedWriter(folder.resolve("given.csv"));
        BufferedWriter gives = Files.newBufferedWriter(folder.resolve("gives.csv"));
        BufferedWriter side = Files.newBufferedWriter(folder.resolve("side.csv"))) {
      sides(assessment, side);
      for (int s = 0; s < facts.subjects(); s++) {
        for (int i = facts.arrays().up().start(s); i < facts.arrays().up().end(s); i++) {
          edge.write(s + "," + facts.arrays().up().at(i) + "\n");
        }
      }
      for (SystemView view : model.systems()) {
        for (Grant grant : view.grants()) {
          given.write(grant.subject() + "," + view.number() + "," + grant.role() + "\n");
        }
        for (int role = 0; role < view.system().roles().size(); role++) {
          for (int right = 0; right < view.rights().size(); right++) {
            if (view.system().roles().get(role).allows(right)) {
              gives.write(view.number() + "," + role + "," + right + "\n");
            }
          }
        }
      }
    }
  }

  private static void sides(Assessment assessment, BufferedWriter out) throws IOException {
    List<SeparationRule> rules = assessment.rules().separation();
    for (int rule = 0; rule < rules.size(); rule++) {
      for (int side = 0; side < rules.get(rule).sides().size(); side++) {
        for (Side item : rules.get(rule).sides().get(side)) {
          Side.Permission permission = (Side.Permission) item;
          int system = assessment.model().system(permission.system()).orElseThrow().number();
          int least = rules.get(rule).atLeast();
          out.write(
              rule + "," + side + "," + least + "," + system + "," + permission.right() + "\n");
        }
      }
    }
  }
}
