package org.sobercompass.sources.live;

import com.unboundid.ldap.sdk.Entry;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.sobercompass.sources.directory.DirectoryKind;
import org.sobercompass.sources.directory.DnForm;

/** What was met of one sort of entry: where, of which classes, with which attributes filled. */
final class Sample {
  private final List<String> dns = new ArrayList<>();
  private final Map<List<String>, Integer> classes = new HashMap<>();
  private final Map<String, Fill> fills = new TreeMap<>();
  private final List<String> watched;

  /** How often an attribute is filled, and with what. */
  private static final class Fill {
    private int entries;
    private boolean unique = true;
    private String example = "";
    private final Set<String> values = new HashSet<>();
  }

  Sample(List<String> watched) {
    this.watched = watched;
  }

  void take(Entry entry) {
    dns.add(DnForm.of(entry.getDN()));
    String[] named = entry.getObjectClassValues();
    classes.merge(named == null ? List.of() : List.of(named), 1, Integer::sum);
    for (String attribute : watched) {
      String value = entry.getAttributeValue(attribute);
      if (value != null) {
        Fill fill = fills.computeIfAbsent(attribute, a -> new Fill());
        fill.entries++;
        fill.unique &= fill.values.add(value.toLowerCase(Locale.ROOT));
        fill.example = fill.example.isEmpty() ? value : fill.example;
      }
    }
  }

  int size() {
    return dns.size();
  }

  /**
   * The least classes of a kind that bring in all of these, by taking the one that brings in most
   * of what is left; of equals the first in the order preferred.
   *
   * @param preferred classes in lower case
   */
  List<String> cover(List<String> preferred) {
    List<String> taken = new ArrayList<>();
    Map<List<String>, Integer> left = new HashMap<>(classes);
    while (true) {
      String best = "";
      int most = 0;
      for (String wanted : preferred) {
        int count = 0;
        String spelled = wanted;
        for (Map.Entry<List<String>, Integer> one : left.entrySet()) {
          for (String name : one.getKey()) {
            if (name.equalsIgnoreCase(wanted)) {
              count += one.getValue();
              spelled = name;
            }
          }
        }
        if (count > most) {
          most = count;
          best = spelled;
        }
      }
      if (most == 0) {
        return taken;
      }
      String chosen = best;
      taken.add(chosen);
      left.keySet().removeIf(names -> names.contains(chosen));
    }
  }

  /** The attribute of these that most entries fill; of equals the first, unique ones before. */
  SettingsProposal.Setting best(String name, List<String> candidates, boolean mustBeUnique) {
    List<String> filled =
        candidates.stream()
            .filter(a -> count(a) > 0)
            .sorted(
                Comparator.comparing((String a) -> mustBeUnique && !unique(a))
                    .thenComparing(Comparator.comparingInt(this::count).reversed()))
            .toList();
    String best = filled.isEmpty() ? "" : filled.get(0);
    List<String> others =
        filled.stream().skip(1).map(a -> a + " (" + count(a) + " of " + size() + ")").toList();
    return new SettingsProposal.Setting(
        name, best, count(best), size(), unique(best), example(best), others);
  }

  private int count(String attribute) {
    Fill fill = fills.get(attribute);
    return fill == null ? 0 : fill.entries;
  }

  private boolean unique(String attribute) {
    Fill fill = fills.get(attribute);
    return fill != null && fill.unique;
  }

  private String example(String attribute) {
    Fill fill = fills.get(attribute);
    return fill == null ? "" : fill.example;
  }

  /**
   * The least bases below a naming context that hold all of these: as deep as they go together, and
   * where they part, the branches, if there are few.
   */
  List<String> bases(List<String> contexts) {
    List<String> bases = new ArrayList<>();
    for (String context : contexts) {
      String form = DnForm.of(context);
      List<String> below = dns.stream().filter(dn -> dn.endsWith("," + form)).toList();
      if (!below.isEmpty()) {
        bases.addAll(narrow(form, below));
      }
    }
    return bases;
  }

  private static List<String> narrow(String top, List<String> dns) {
    String base = top;
    while (true) {
      Set<String> branches = new HashSet<>();
      boolean direct = false;
      for (String dn : dns) {
        String branch = branch(dn, base);
        direct |= branch.isEmpty();
        branches.add(branch);
      }
      if (direct || branches.size() > MOST_BRANCHES) {
        return List.of(base);
      }
      if (branches.size() > 1) {
        return branches.stream().sorted().toList();
      }
      base = branches.iterator().next();
    }
  }

  private static final int MOST_BRANCHES = 3;

  /** The container directly below a base that holds a DN; empty when the DN is directly there. */
  private static String branch(String dn, String base) {
    String rest = dn.substring(0, dn.length() - base.length() - 1);
    int comma = lastComma(rest);
    return comma < 0 ? "" : rest.substring(comma + 1) + "," + base;
  }

  /** The last comma that is not escaped (RFC 4514 section 2.4). */
  private static int lastComma(String text) {
    for (int i = text.length() - 1; i > 0; i--) {
      if (text.charAt(i) == ',' && text.charAt(i - 1) != '\\') {
        return i;
      }
    }
    return -1;
  }

  /** Which sort of entry this is for a kind of directory. */
  static String sort(Entry entry, DirectoryKind kind) {
    String[] named = entry.getObjectClassValues();
    String sort = "";
    for (String name : named == null ? new String[0] : named) {
      String lower = name.toLowerCase(Locale.ROOT);
      if (kind.groups().contains(lower)) {
        return "group";
      }
      if (kind.notAccounts().contains(lower)) {
        sort = "other";
      } else if (sort.isEmpty() || sort.equals("unit")) {
        sort =
            kind.accounts().contains(lower)
                ? "account"
                : kind.units().contains(lower) ? "unit" : sort;
      }
    }
    return sort.isEmpty() ? "other" : sort;
  }
}
