package org.sobercompass.sources.database;

import java.util.Set;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.Drafts;
import org.sobercompass.sources.SourceKind;

/** Roles of a database, from what was collected of it. */
public final class RoleKind implements SourceKind {
  @Override
  public String id() {
    return "postgresql";
  }

  @Override
  public Set<String> settings() {
    return Set.of("accounts-of");
  }

  @Override
  public void amend(Wanted wanted, Drafts into) {
    new DatabaseAmending(wanted.directory(), into).members(wanted);
  }

  @Override
  public void read(Entries entries, FactsSource into, Problems problems) {
    new RoleSource(entries.shown(), entries.accountsOf(), into, problems).read(entries.path());
  }
}
