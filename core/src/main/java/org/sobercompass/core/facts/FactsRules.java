package org.sobercompass.core.facts;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.filter.Matching;
import org.sobercompass.core.filter.Schema;
import org.sobercompass.core.filter.Syntax;
import org.sobercompass.core.filter.Truth;
import org.sobercompass.core.filter.Values;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;

/** Turns rules into members. O(rules x subjects of their directory x filter items). */
final class FactsRules {
  private final FactsOrder order;
  private final Map<String, Column> columns;
  private final Problems problems;

  FactsRules(FactsOrder order, Map<String, Column> columns, Problems problems) {
    this.order = order;
    this.columns = columns;
    this.problems = problems;
  }

  /** Adds an edge for each member that a rule of the source makes. */
  void apply(FactsSource source, FactsEdges edges) {
    List<SubjectRow> rows = order.builder.rows;
    for (FactsSource.Ruled ruled : source.rules) {
      MemberRule rule = ruled.rule();
      int undefined = 0;
      int members = 0;
      for (int row = 0; row < rows.size(); row++) {
        boolean candidate =
            order.builder.rowSource.get(row) == source.number
                && row != ruled.row()
                && rows.get(row).kind() != SubjectKind.UNIT
                && rule.covers(rows.get(row).dnForm());
        Truth truth =
            candidate
                ? rule.filter()
                    .test(new RowValues(order.number(row), rows.get(row).dnForm(), source.schema))
                : Truth.FALSE;
        if (truth == Truth.UNDEFINED) {
          undefined++;
          edges.add(order.number(row), order.number(ruled.row()), Via.UNDEFINED);
        }
        if (truth == Truth.TRUE) {
          members++;
          edges.add(order.number(row), order.number(ruled.row()), Via.DYNAMIC);
        }
      }
      guessed(source, rule);
      tell(rule, members, undefined);
    }
  }

  private void tell(MemberRule rule, int members, int undefined) {
    if (undefined > 0) {
      problems.add(
          Problem.warning(
              rule.place(),
              "the rule is undefined for "
                  + undefined
                  + (undefined == 1
                      ? " entry, which is perhaps a member"
                      : " entries, which are perhaps members"),
              "attributes that the directory has, values of their kind"));
    } else if (members == 0) {
      problems.add(
          Problem.warning(rule.place(), "the rule has no member", "a filter that fits somebody"));
    }
  }

  /** Without a schema, how an attribute that is not of the usual ones compares is a guess. */
  private void guessed(FactsSource source, MemberRule rule) {
    Set<String> asked = new TreeSet<>();
    rule.filter().collectAttributes(asked);
    for (String attribute : asked) {
      if (source.schema.isEmpty() && !Syntax.isKnown(attribute)) {
        problems.add(Syntax.guessed(rule.place(), source.name, attribute));
      }
    }
  }

  /** The kept values of one subject. */
  private final class RowValues implements Values {
    private final int subject;
    private final String dnForm;
    private final Optional<Schema> schema;

    RowValues(int subject, String dnForm, Optional<Schema> schema) {
      this.subject = subject;
      this.dnForm = dnForm;
      this.schema = schema;
    }

    @Override
    public List<String> inName(String attribute) {
      return Values.inName(dnForm, attribute);
    }

    @Override
    public List<String> of(String attribute) {
      Column column = columns.get(attribute);
      return column == null ? List.of() : column.values(subject);
    }

    @Override
    public Optional<Matching> matching(String attribute) {
      return Column.matching(columns, schema, attribute);
    }
  }
}
