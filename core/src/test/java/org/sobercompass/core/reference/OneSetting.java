package org.sobercompass.core.reference;

import java.util.List;
import java.util.Map;
import java.util.Set;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Setting;
import org.sobercompass.core.system.Settings;

/** A file with one setting, {@code all}, which says {@code was} or {@code is}. */
record OneSetting(AccessSystem then) implements Settings {
  static final List<String> PATH = List.of("all");

  @Override
  public String file() {
    return "x.yaml";
  }

  @Override
  public String says(List<String> path, List<Setting> earlier) {
    if (!path.equals(PATH)) {
      throw new IllegalArgumentException("no proposal can change " + path);
    }
    return earlier.isEmpty() ? "was" : earlier.get(earlier.size() - 1).is();
  }

  @Override
  public Set<String> keys(List<String> path) {
    return Set.of();
  }

  @Override
  public Map<List<String>, String> all() {
    return Map.of(PATH, "was");
  }

  @Override
  public Set<String> needs(List<Setting> settings) {
    return Set.of();
  }

  @Override
  public AccessSystem with(List<Setting> settings) {
    if (!settings.get(settings.size() - 1).is().equals("is")) {
      throw new IllegalArgumentException("it cannot be read then");
    }
    return then;
  }
}
