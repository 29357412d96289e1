package org.sobercompass.core.system.scopes;

import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.system.Resources;

/** Accounts, groups and units as resources, none below another: scopes overlap as they like. */
record SubjectResources(Facts facts) implements Resources {
  @Override
  public int size() {
    return facts.subjects();
  }

  @Override
  public String id(int resource) {
    return facts.key(resource).text();
  }

  @Override
  public String name(int resource) {
    return facts.title(resource);
  }

  @Override
  public int parent(int resource) {
    return -1;
  }

  @Override
  public int end(int resource) {
    return resource + 1;
  }

  @Override
  public int depth(int resource) {
    return 0;
  }

  @Override
  public Optional<Integer> find(String id) {
    for (SubjectKind kind : SubjectKind.values()) {
      List<Integer> found = facts.names().find(kind, id, id);
      if (found.size() == 1) {
        return Optional.of(found.get(0));
      }
    }
    return Optional.empty();
  }

  @Override
  public List<String> ids() {
    return IntStream.range(0, size()).mapToObj(this::id).toList();
  }
}
