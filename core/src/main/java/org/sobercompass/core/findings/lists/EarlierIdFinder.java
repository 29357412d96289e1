package org.sobercompass.core.findings.lists;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Consumer;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.ListDetails;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;

/**
 * Ids that were kept from an earlier directory ({@code sIDHistory}, [MS-ADA3]) and are still named
 * in lists of directory objects. O(entries of distinct lists). Files have a remark of their own.
 */
public final class EarlierIdFinder implements Finder {
  /** What it looks for. */
  public static final Set<FindingKind> KINDS = EnumSet.of(FindingKind.FORMER_ID);

  private final FindingContext context;

  public EarlierIdFinder(FindingContext context) {
    this.context = context;
  }

  /** Who bears an earlier id, and where it is named. */
  private record Borne(String bearer, Key key, List<Evidence> named) {}

  @Override
  public void find(Consumer<Finding> out) {
    List<DirectoryTree> trees = context.assessment.powers().trees().all();
    Map<String, Borne> borne = new HashMap<>();
    for (DirectoryTree tree : trees) {
      for (int object = 0; object < tree.size(); object++) {
        for (String sid : tree.history(object)) {
          borne.put(sid, borne(tree, object));
        }
      }
    }
    if (borne.isEmpty()) {
      return;
    }
    for (DirectoryTree tree : trees) {
      for (int object = 0; object < tree.size(); object++) {
        if (tree.descriptorNumber(object) >= 0) {
          named(tree, object, borne);
        }
      }
    }
    new TreeMap<>(borne)
        .forEach(
            (sid, b) -> {
              if (!b.named.isEmpty()) {
                out.accept(finding(sid, b));
              }
            });
  }

  private Borne borne(DirectoryTree tree, int object) {
    return context
        .assessment
        .powers()
        .trees()
        .subject(tree.sid(object))
        .map(
            subject ->
                new Borne(
                    Words.subject(context.facts, subject),
                    context.facts.key(subject),
                    new ArrayList<>()))
        .orElseGet(
            () ->
                new Borne(
                    tree.label(object),
                    new Key(KeyKind.NODE, tree.directory(), tree.dnForm(object)),
                    new ArrayList<>()));
  }

  private void named(DirectoryTree tree, int object, Map<String, Borne> borne) {
    Descriptor descriptor = tree.descriptorOf(tree.descriptorNumber(object));
    for (Ace ace : descriptor.entries()) {
      Borne by = borne.get(ace.trustee());
      if (by != null) {
        by.named.add(new Evidence.NamesFormerId(tree.label(object), ace.trustee()));
      }
    }
  }

  private Finding finding(String sid, Borne by) {
    return context.decision(
        FindingKind.FORMER_ID,
        sid,
        by.key,
        Weight.MEDIUM,
        new ListDetails.FormerId(sid, by.bearer, by.named.size()),
        by.named.stream().limit(FindingContext.LISTED).toList(),
        "",
        List.of(by.key));
  }
}
