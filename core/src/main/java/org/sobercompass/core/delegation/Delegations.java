package org.sobercompass.core.delegation;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.DsRights;

/**
 * Lists what was delegated in a directory, object by object, in the order of its tree. Lines are
 * worked out once for equal lists with equal origins. Not thread-safe. O(objects) after that.
 */
public final class Delegations {
  private final DirectoryTree tree;
  private final Origins origins;
  private final EntryActions meaning;
  private final EntryWords words;
  private final Map<Template, List<Delegation>> known = new HashMap<>();

  private record Template(int descriptor, int kind, List<Origin> origins) {}

  private record Line(String trustee, Origin origin, boolean denies) {}

  /** Of a tree, in the words of these actions. */
  public Delegations(DirectoryTree tree, Origins origins, List<AdminAction> actions) {
    this.tree = tree;
    this.origins = origins;
    this.meaning = new EntryActions(tree.names(), actions);
    this.words = new EntryWords(tree.names());
  }

  /** What is delegated on an object, by entries of these origins. */
  public List<Delegation> on(int object, Set<Origin> wanted) {
    List<Origin> own = origins.of(object);
    if (own.stream().noneMatch(wanted::contains)) {
      return List.of();
    }
    Template key = new Template(tree.descriptorNumber(object), tree.kind(object), own);
    List<Delegation> lines = known.computeIfAbsent(key, k -> lines(object, own));
    List<Delegation> out = new ArrayList<>();
    for (Delegation line : lines) {
      if (wanted.contains(line.origin())) {
        out.add(
            new Delegation(
                object,
                line.trustee(),
                line.origin(),
                line.denies(),
                line.entries(),
                line.actions(),
                line.besides(),
                line.rights()));
      }
    }
    return out;
  }

  /** What is delegated on an object and all below it. */
  public List<Delegation> below(int object, Set<Origin> wanted) {
    List<Delegation> all = new ArrayList<>();
    for (int at = object; at < tree.end(object); at++) {
      all.addAll(on(at, wanted));
    }
    return all;
  }

  private List<Delegation> lines(int object, List<Origin> own) {
    Map<Line, List<Integer>> grouped = new LinkedHashMap<>();
    List<Ace> entries = tree.descriptorOf(tree.descriptorNumber(object)).entries();
    for (int i = 0; i < entries.size(); i++) {
      Ace ace = entries.get(i);
      if (ace.type().effect() != org.sobercompass.core.descriptor.AceType.Effect.NONE) {
        grouped
            .computeIfAbsent(
                new Line(ace.trustee(), own.get(i), ace.denies()), k -> new ArrayList<>())
            .add(i);
      }
    }
    List<Delegation> lines = new ArrayList<>();
    grouped.forEach(
        (line, numbers) -> {
          List<Ace> some = numbers.stream().map(entries::get).toList();
          lines.add(
              new Delegation(
                  object,
                  line.trustee,
                  line.origin,
                  line.denies,
                  List.copyOf(numbers),
                  meaning.actions(some, tree.objectClass(object)),
                  besides(some, meaning.possible(some, tree.objectClass(object))),
                  some.stream().map(words::of).distinct().toList()));
        });
    return lines;
  }

  /** What entries give that none of some actions covers, in words. */
  private List<String> besides(List<Ace> entries, List<AdminAction> covered) {
    List<String> found = new ArrayList<>();
    for (Ace ace : entries) {
      int left = DsRights.mapped(ace.mask()) & ~meaning.covered(ace, covered);
      if (left != 0 && ace.type() != org.sobercompass.core.descriptor.AceType.UNKNOWN) {
        found.add(words.of(ace.with(ace.flags(), left, ace.trustee())));
      }
    }
    return found.stream().distinct().toList();
  }
}
