package org.sobercompass.core.findings.lists;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Breadth;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.ListDetails;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Projected;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Resources;
import org.sobercompass.core.system.Token;
import org.sobercompass.core.system.Verdict;

/**
 * Sensitive places that everyone can read: those that the workspace names, and those that stand out
 * among their siblings, of which hardly any is open to everyone. O(resources) a system of lists.
 */
public final class SensitiveFinder implements Finder {
  /** What it looks for. */
  public static final Set<FindingKind> KINDS = EnumSet.of(FindingKind.READABLE_BY_EVERYONE);

  /** Among fewer siblings nothing stands out. */
  private static final int FEW = 4;

  private final FindingContext context;
  private final Breadth breadth;

  public SensitiveFinder(FindingContext context) {
    this.context = context;
    this.breadth = new Breadth(context);
  }

  @Override
  public void find(Consumer<Finding> out) {
    for (SystemView view : context.model.systems()) {
      Optional<Integer> read = reading(view);
      if (view.assigned().isEmpty() && read.isPresent()) {
        system(view, read.get(), out);
      }
    }
  }

  private static Optional<Integer> reading(SystemView view) {
    return view.rights()
        .find("read-data")
        .or(() -> view.rights().find("read"))
        .or(() -> view.rights().find("select"));
  }

  private void system(SystemView view, int read, Consumer<Finding> out) {
    SubjectSet everyone = new SubjectSet();
    everyone.sure().add(context.facts.implicit(Implicit.EVERYONE));
    everyone.sure().add(context.facts.implicit(Implicit.SIGNED_IN));
    IntList trustees = view.decider().trustees();
    for (int i = 0; i < trustees.size(); i++) {
      int trustee = trustees.get(i);
      boolean isGroup = trustee >= 0 && context.facts.kind(trustee) == SubjectKind.GROUP;
      if (isGroup && (context.rules.broad().contains(trustee) || breadth.holdsAll(view, trustee))) {
        everyone.sure().add(trustee);
      }
    }
    long asOf = context.model.asOf().getEpochSecond();
    Projected who = view.decider().project(new Token(Token.NOBODY, everyone, asOf));
    Resources tree = view.resources();
    BitSet open = new BitSet();
    for (int r = 0; r < tree.size(); r++) {
      open.set(r, view.decider().decide(who, Question.of(r, read)) == Verdict.YES);
    }
    BitSet told = new BitSet();
    for (String place : context.rules.sensitive()) {
      int colon = place.indexOf(':');
      if (place.substring(0, colon).equals(view.id())) {
        int resource = tree.find(place.substring(colon + 1)).orElse(-1);
        if (resource >= 0 && open.get(resource)) {
          told.set(resource);
          out.accept(finding(view, read, resource, 0, 0));
        }
      }
    }
    for (int parent = 0; parent < tree.size(); parent++) {
      siblings(view, read, parent, open, told, out);
    }
  }

  /** One folder among at least {@link #FEW} that hardly any other shares being open with. */
  private void siblings(
      SystemView view, int read, int parent, BitSet open, BitSet told, Consumer<Finding> out) {
    Resources tree = view.resources();
    List<Integer> folders = new ArrayList<>();
    for (int child = parent + 1; child < tree.end(parent); child = tree.end(child)) {
      if (tree.end(child) > child + 1) {
        folders.add(child);
      }
    }
    List<Integer> readable = folders.stream().filter(open::get).toList();
    boolean rare = folders.size() >= FEW && 4 * readable.size() <= folders.size();
    for (int folder : rare ? readable : List.<Integer>of()) {
      if (!told.get(folder)) {
        int closed = folders.size() - readable.size();
        out.accept(finding(view, read, folder, closed, folders.size()));
      }
    }
  }

  private Finding finding(SystemView view, int read, int resource, int closed, int siblings) {
    String path = view.resources().id(resource);
    return context.decision(
        FindingKind.READABLE_BY_EVERYONE,
        "",
        new Key(KeyKind.NODE, view.id(), path),
        Weight.MEDIUM,
        new ListDetails.OpenToAll(view.number(), path, closed, siblings),
        List.of(new Evidence.OpenPlace(view.number(), path, read)),
        view.id(),
        List.of());
  }
}
