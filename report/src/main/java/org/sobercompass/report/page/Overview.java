package org.sobercompass.report.page;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.report.page.PageTable.Cell;
import org.sobercompass.report.page.PageTable.Part;
import org.sobercompass.report.page.PageTable.Row;

/** How many findings of what weight there are, by application and by who answers for them. */
final class Overview {
  private static final int OWNERS = 50;
  private static final String NOBODY = "nobody is named";

  private final PageContext context;
  private final Map<String, int[]> byApplication = new LinkedHashMap<>();
  private final Map<String, int[]> byOwner = new LinkedHashMap<>();

  Overview(PageContext context) {
    this.context = context;
    context.model().systems().forEach(view -> byApplication.put(view.id(), new int[3]));
    for (Finding finding : context.sorted().open()) {
      Set<String> ids = context.findings().applications(finding);
      (ids.isEmpty() ? Set.of("") : ids).forEach(id -> count(byApplication, id, finding));
      List<Integer> owners = context.owners().of(finding);
      if (owners.isEmpty()) {
        count(byOwner, NOBODY, finding);
      }
      owners.forEach(o -> count(byOwner, Words.subject(context.facts(), o), finding));
    }
  }

  private static void count(Map<String, int[]> counts, String id, Finding finding) {
    int at = Weight.HIGH.ordinal() - finding.weight().ordinal();
    counts.computeIfAbsent(id, k -> new int[3])[at]++;
  }

  Section section() {
    PageTable applications =
        new PageTable(
            "applications",
            "Findings by application",
            List.of("application", "owner", "high", "medium", "low"),
            applications(),
            List.of());
    PageTable owners =
        new PageTable(
            "owners",
            "Findings by who answers for them",
            List.of("owner", "high", "medium", "low"),
            owners(),
            byOwner.size() > OWNERS
                ? List.of(
                    (byOwner.size() - OWNERS)
                        + " more are not in this page; sober findings --owner NAME has theirs.")
                : List.of());
    return Section.of("overview", "Overview")
        .saying(
            List.of(
                "A finding that concerns several applications, or several owners, counts for"
                    + " each."))
        .with(List.of(applications, owners));
  }

  private List<Row> applications() {
    List<Row> rows = new ArrayList<>();
    for (SystemView view : context.model().systems()) {
      List<Integer> owners = context.owners().ofApplication(view.id());
      List<Cell> cells = new ArrayList<>();
      cells.add(Cell.of(view.system().name()));
      cells.add(
          owners.isEmpty()
              ? Cell.of(NOBODY)
              : new Cell(owners.stream().map(context.links()::part).toList(), false));
      cells.addAll(counts(byApplication.getOrDefault(view.id(), new int[3])));
      rows.add(new Row("a-" + view.id(), cells));
    }
    List<Cell> none = new ArrayList<>(List.of(Cell.of("no application"), Cell.of("")));
    none.addAll(counts(byApplication.getOrDefault("", new int[3])));
    rows.add(new Row("", none));
    return rows;
  }

  private List<Row> owners() {
    List<Row> rows = new ArrayList<>();
    byOwner.entrySet().stream()
        .sorted(Comparator.comparing(e -> -e.getValue()[0] * 1000 - e.getValue()[1]))
        .limit(OWNERS)
        .forEach(
            e -> {
              List<Cell> cells = new ArrayList<>();
              cells.add(new Cell(List.of(context.links().part(e.getKey())), false));
              cells.addAll(counts(e.getValue()));
              rows.add(new Row("", cells));
            });
    return rows;
  }

  private static List<Cell> counts(int[] numbers) {
    List<Cell> cells = new ArrayList<>();
    for (int number : numbers) {
      cells.add(number == 0 ? new Cell(List.of(new Part("", "")), true) : Cell.of(number));
    }
    return cells;
  }
}
