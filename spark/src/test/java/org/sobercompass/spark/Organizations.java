package org.sobercompass.spark;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Row;
import org.sobercompass.bench.Generator;
import org.sobercompass.bench.Shape;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.report.answers.Dumps;
import org.sobercompass.sources.workspace.Workspace;
import scala.collection.Iterable;
import scala.jdk.javaapi.CollectionConverters;

/**
 * Made-up organizations, and the rows of one machine and of parts as texts that can be compared.
 */
final class Organizations {
  private Organizations() {}

  /**
   * An organization with what the generator leaves out: persons with two accounts, peers, rules per
   * person, and assignments that were agreed but not read and the other way round.
   */
  static Workspace random(Path root, Shape shape, int accounts, long seed) throws IOException {
    new Generator(root, accounts, shape, seed).write();
    // A name for people that is another's login: what a name fits depends on all accounts.
    Path export = root.resolve("directory.ldif");
    Files.writeString(
        export,
        Files.readString(export).replace("displayName: User Number 11\n", "displayName: user13\n"));
    boolean tree = Files.readString(root.resolve("applications/app1.yaml")).contains("nodes:");
    Files.writeString(
        root.resolve("assignments/app1.csv"),
        "role1,account,user13," + (tree ? "top" : "") + ",yes,,\r\n",
        StandardOpenOption.APPEND);
    Path main = root.resolve("compass.yaml");
    String text =
        Files.readString(main).replace("weight: high,", "weight: high, at-least: 2, per: person,");
    Files.writeString(
        main,
        text
            + "persons: {file: persons.csv}\n"
            + "findings:\n  peers: {by: [departmentNumber], at-least: 3, share: 40}\n");
    StringBuilder links = new StringBuilder("account,other,same,reason\n");
    for (int a = 0; a + 7 < accounts; a += 10) {
      links.append("user").append(a).append(",user").append(a + 7).append(",yes,by hand\n");
    }
    Files.writeString(root.resolve("persons.csv"), links);
    for (int app = 0; app < shape.applications(); app += 3) {
      Path table = root.resolve("assignments/app" + app + ".csv");
      List<String> lines = new ArrayList<>(Files.readAllLines(table));
      lines.subList(1, Math.min(lines.size(), 3)).clear();
      Files.write(root.resolve("assignments/agreed" + app + ".csv"), lines);
      Path file = root.resolve("applications/app" + app + ".yaml");
      Files.writeString(
          file, Files.readString(file) + "  intended: assignments/agreed" + app + ".csv\n");
    }
    return Workspace.open(root);
  }

  static List<String> holdings(Workspace workspace) {
    List<String> rows = new ArrayList<>();
    new Dumps(workspace.model()).rows("holdings", row -> rows.add(row.toString()));
    rows.sort(null);
    return rows;
  }

  static List<String> broken(Workspace workspace) {
    Facts facts = workspace.facts();
    List<String> rows = new ArrayList<>();
    Findings.broken(
        workspace.assessment(workspace.model()),
        (rule, accounts) ->
            rows.add(
                List.of(rule, accounts.stream().map(a -> facts.key(a).text()).toList())
                    .toString()));
    rows.sort(null);
    return rows;
  }

  /** Rows in the form of the lists above, sorted. */
  static List<String> texts(Dataset<Row> table) {
    List<String> rows = new ArrayList<>();
    for (Row row : table.collectAsList()) {
      List<Object> cells = new ArrayList<>();
      for (int i = 0; i < row.size(); i++) {
        cells.add(
            row.get(i) instanceof Iterable<?> list
                ? new ArrayList<>(CollectionConverters.asJavaCollection(list))
                : row.get(i));
      }
      rows.add(cells.toString());
    }
    rows.sort(null);
    return rows;
  }
}
