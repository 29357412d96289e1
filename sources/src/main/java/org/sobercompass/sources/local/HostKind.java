package org.sobercompass.sources.local;

import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.SourceKind;

/** Users and groups of one host: lines of passwd, group and shadow, as {@code getent} gives. */
public final class HostKind implements SourceKind {
  @Override
  public String id() {
    return "host";
  }

  @Override
  public boolean isLocal() {
    return true;
  }

  @Override
  public void read(Entries entries, FactsSource into, Problems problems) {
    new HostSource(entries.shown(), into, problems).read(entries.path());
  }
}
