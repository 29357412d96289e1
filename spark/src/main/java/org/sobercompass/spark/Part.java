package org.sobercompass.spark;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.apache.spark.sql.Row;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.facts.AccountRow;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsParts;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.FindingRules;
import org.sobercompass.core.person.Persons;
import org.sobercompass.core.system.Basis;
import org.sobercompass.sources.workspace.Mapping;

/** One part of the accounts on a worker, as an organization of its own. */
final class Part {
  private final Shared shared;
  private final Facts facts;
  private final Mapping mapping;
  private final Persons persons;

  /**
   * A part.
   *
   * @param companions accounts of other parts, of which only the memberships matter; those that are
   *     in this part are left out
   */
  Part(Shared shared, Iterator<Row> accounts, List<Row> companions) {
    List<Row> rows = new ArrayList<>();
    accounts.forEachRemaining(rows::add);
    Set<Long> numbers = new HashSet<>();
    rows.forEach(row -> numbers.add(row.getLong(0)));
    companions.stream().filter(row -> numbers.add(row.getLong(0))).forEach(rows::add);
    rows.sort(Comparator.comparingLong(row -> row.getLong(0)));
    List<AccountRow> own = rows.stream().map(AccountTable::account).toList();
    this.shared = shared;
    this.facts = FactsParts.with(shared.facts(), own);
    this.mapping = Mapping.over(shared.folder(), facts);
    this.persons = Persons.grouped(rows.stream().mapToLong(AccountTable::person).toArray());
  }

  Facts facts() {
    return facts;
  }

  FindingRules rules() {
    return mapping.rules();
  }

  AccessModel model(Optional<Basis> basis) {
    return AccessModel.of(facts, mapping.systems(), shared.time(), basis);
  }

  Assessment assessment(FindingRules rules) {
    AccessModel model = model(Optional.empty());
    return new Assessment(
        model, rules, persons, Powers.none(model), Assessment.Owned.NOBODY, List.of(), List.of());
  }
}
