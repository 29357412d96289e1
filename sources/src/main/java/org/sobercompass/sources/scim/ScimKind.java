package org.sobercompass.sources.scim;

import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.LiveSource;
import org.sobercompass.sources.SourceKind;
import org.sobercompass.sources.text.Folder;
import org.sobercompass.sources.text.Node;

/** Users and groups of SCIM 2.0 (RFC 7643), as JSON lines or over the wire. */
public final class ScimKind implements SourceKind {
  @Override
  public String id() {
    return "scim";
  }

  @Override
  public Set<String> settings() {
    return Set.of("address", "plain", "token");
  }

  @Override
  public String ending() {
    return ".jsonl";
  }

  @Override
  public void read(Entries entries, FactsSource into, Problems problems) {
    new ScimSource(entries.shown(), into, problems).read(entries.path());
  }

  @Override
  public Optional<LiveSource> live(String name, Node node, Folder root) {
    return ScimAccess.read(name, node, root).map(access -> access);
  }
}
