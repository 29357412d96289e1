package org.sobercompass.spark;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.HashSet;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
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
  private final BitSet guests = new BitSet();

  /**
   * A part.
   *
   * @param others accounts that may be of other parts and are guests here then: nothing is answered
   *     about them
   */
  Part(Shared shared, Iterator<Row> accounts, List<Row> others) {
    List<Row> rows = new ArrayList<>();
    accounts.forEachRemaining(rows::add);
    Set<Long> numbers = new HashSet<>();
    rows.forEach(row -> numbers.add(row.getLong(0)));
    Set<Long> own = Set.copyOf(numbers);
    others.stream().filter(row -> numbers.add(row.getLong(0))).forEach(rows::add);
    rows.sort(Comparator.comparingLong(row -> row.getLong(0)));
    for (int a = 0; a < rows.size(); a++) {
      guests.set(a, !own.contains(rows.get(a).getLong(0)));
    }
    List<AccountRow> all = rows.stream().map(AccountTable::account).toList();
    this.shared = shared;
    this.facts = FactsParts.with(shared.facts(), all);
    this.mapping = Mapping.over(shared.folder(), facts);
    this.persons = Persons.grouped(rows.stream().mapToLong(AccountTable::person).toArray());
  }

  Facts facts() {
    return facts;
  }

  /** Whether an account is of this part. */
  boolean isOwn(int account) {
    return !guests.get(account);
  }

  /** The keys of the accounts that are not. */
  Set<String> guests() {
    return guests.stream().mapToObj(a -> facts.key(a).text()).collect(Collectors.toSet());
  }

  FindingRules rules() {
    return mapping.rules();
  }

  AccessModel model(Optional<Basis> basis) {
    return AccessModel.of(facts, mapping.systems(), shared.time(), basis).onThreads(1);
  }

  Assessment assessment(FindingRules rules) {
    AccessModel model = model(Optional.empty());
    return new Assessment(
        model, rules, persons, Powers.none(model), Assessment.Owned.NOBODY, List.of(), List.of());
  }
}
