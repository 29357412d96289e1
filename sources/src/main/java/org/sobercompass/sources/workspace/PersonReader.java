package org.sobercompass.sources.workspace;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.crosswalk.Crosswalk;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.person.Link;
import org.sobercompass.core.person.Persons;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.disk.Folder;
import org.sobercompass.sources.text.CsvReader;
import org.sobercompass.sources.text.Node;
import org.sobercompass.sources.text.YesNo;

/** Reads which accounts are one person's: {@code persons:} in {@code compass.yaml}. */
final class PersonReader {
  private static final List<String> COLUMNS = List.of("account", "other", "same", "reason");

  private PersonReader() {}

  /** The attributes (lower case) that link accounts. */
  static List<String> attributes(Node main) {
    return main.get("persons").map(node -> node.texts("link")).orElse(List.of()).stream()
        .map(name -> name.toLowerCase(Locale.ROOT))
        .toList();
  }

  /**
   * Reads them.
   *
   * @param crosswalks tables in which it was decided who is who
   */
  static Persons read(
      Node main, Folder root, Facts facts, List<Crosswalk> crosswalks, Problems problems) {
    Optional<Node> node = main.get("persons");
    node.ifPresent(n -> n.only(Set.of("link", "file")));
    List<Link> same = new ArrayList<>();
    List<Link> notSame = new ArrayList<>();
    crosswalks.forEach(table -> same.addAll(table.links(facts, true)));
    crosswalks.forEach(table -> notSame.addAll(table.links(facts, false)));
    NameResolver names = new NameResolver(facts, problems);
    for (String file : node.map(n -> n.texts("file")).orElse(List.of())) {
      new CsvReader(file, COLUMNS, List.of("account", "other"), problems)
          .read(
              root.resolve(file),
              row -> {
                int one = names.resolve(SubjectKind.ACCOUNT, row.get("account"), row.place());
                int two = names.resolve(SubjectKind.ACCOUNT, row.get("other"), row.place());
                String word = row.get("same");
                Optional<Boolean> yes = word.isEmpty() ? Optional.of(true) : YesNo.parse(word);
                if (yes.isEmpty()) {
                  problems.error(
                      row.place(),
                      "same: " + Problem.quote(word) + " is neither yes nor no",
                      "yes or no");
                } else if (one >= 0 && two >= 0) {
                  (yes.get() ? same : notSame).add(new Link(one, two, row.get("reason")));
                }
              });
    }
    Persons persons = Persons.of(facts, attributes(main), same, notSame);
    node.ifPresent(
        n -> {
          persons.ambiguous().forEach(what -> tell(n, what, problems));
          persons.unmerged().forEach(what -> tell(n, what, problems));
        });
    return persons;
  }

  private static void tell(Node node, String what, Problems problems) {
    problems.warning(node.place(), what, "a link or a \"not the same\" by hand");
  }
}
