package org.sobercompass.sources.local;

import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.SourceKind;

/** Accounts that an application keeps itself, as CSV. */
public final class AccountsKind implements SourceKind {
  @Override
  public String id() {
    return "accounts";
  }

  @Override
  public boolean isLocal() {
    return true;
  }

  @Override
  public void read(Entries entries, FactsSource into, Problems problems) {
    new AccountsSource(entries.shown(), entries.zone(), into, problems).read(entries.path());
  }
}
