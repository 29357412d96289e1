package org.sobercompass.report.page;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.key.Key;
import org.sobercompass.report.page.PageTable.Cell;
import org.sobercompass.report.page.PageTable.Part;
import org.sobercompass.report.page.PageTable.Row;

/** Who is named in a page: a line each, to which the names elsewhere in the page lead. */
final class NamedSection {
  private static final int FINDINGS = 12;

  private final PageContext context;

  NamedSection(PageContext context) {
    this.context = context;
  }

  Optional<Section> make() {
    List<Integer> named = context.links().named();
    if (named.isEmpty()) {
      return Optional.empty();
    }
    Map<Key, List<String>> findings = new HashMap<>();
    named.forEach(subject -> findings.put(context.facts().key(subject), new ArrayList<>()));
    for (Finding finding : context.sorted().open()) {
      for (Key key : finding.subjects()) {
        List<String> own = findings.get(key);
        if (own != null) {
          own.add(finding.id());
        }
      }
    }
    List<Row> rows = new ArrayList<>();
    for (int subject : named) {
      rows.add(row(subject, findings));
    }
    return Optional.of(
        Section.of("named", "Accounts and groups named in this page")
            .with(
                List.of(
                    new PageTable(
                        "named",
                        "",
                        List.of("name", "login", "kind", "in", "state", "members", "findings"),
                        rows,
                        List.of(
                            "sober findings --detail ID tells of a finding that is not here.")))));
  }

  private Row row(int subject, Map<Key, List<String>> findings) {
    Facts facts = context.facts();
    boolean account = facts.kind(subject) == SubjectKind.ACCOUNT;
    int unit = facts.container(subject);
    String in = facts.source(subject) + (unit < 0 ? "" : ", " + facts.label(unit));
    List<String> ids = findings.getOrDefault(facts.key(subject), List.of());
    List<Part> parts = new ArrayList<>();
    ids.stream().limit(FINDINGS).forEach(id -> parts.add(part(id)));
    if (ids.size() > FINDINGS) {
      parts.add(new Part("and " + (ids.size() - FINDINGS) + " more", ""));
    }
    return new Row(
        Links.id(subject),
        List.of(
            Cell.of(account ? facts.label(subject) : Words.subject(facts, subject)),
            Cell.of(account ? facts.login(subject) : ""),
            Cell.of(facts.kind(subject).words()),
            Cell.of(in),
            Cell.of(account ? state(facts, subject) : ""),
            account ? Cell.of("") : Cell.of(members(subject)),
            new Cell(parts, false)));
  }

  /** A finding, with a link where it stands in the page. */
  private Part part(String id) {
    return new Part(id, context.findings().isShown(id) ? "f-" + id : "");
  }

  private int members(int group) {
    org.sobercompass.core.store.IntList found = new org.sobercompass.core.store.IntList();
    context.model().widest().walker().accounts(group, found);
    BitSet distinct = new BitSet();
    for (int i = 0; i < found.size(); i++) {
      distinct.set(found.get(i));
    }
    return distinct.cardinality();
  }

  private String state(Facts facts, int account) {
    long at = context.model().asOf().getEpochSecond();
    if (facts.is(account, Facts.DISABLED)) {
      return "x disabled";
    }
    if (facts.expires(account) <= at) {
      return "x expired";
    }
    return facts.isLocked(account, at) ? "x locked" : "";
  }
}
