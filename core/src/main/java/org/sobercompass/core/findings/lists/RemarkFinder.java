package org.sobercompass.core.findings.lists;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.function.Consumer;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.ListDetails;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Remark;

/** What systems remark on their own facts: lists of files, rights in databases. */
public final class RemarkFinder implements Finder {
  /** What it looks for. */
  public static final Set<FindingKind> KINDS =
      EnumSet.of(
          FindingKind.ENTRY_ORDER,
          FindingKind.FORMER_ID,
          FindingKind.SHARE_AND_FILES_DISAGREE,
          FindingKind.UNSUPPORTED_INHERITANCE,
          FindingKind.INHERITANCE_NOT_APPLIED,
          FindingKind.BROKEN_INHERITANCE,
          FindingKind.WRITABLE_BY_EVERYONE,
          FindingKind.OWNER_NOT_ADMINISTRATOR,
          FindingKind.UNRESOLVED_TRUSTEE,
          FindingKind.DIRECT_ENTRY,
          FindingKind.MASK_LIMITS_ENTRY,
          FindingKind.GRANT_WITHOUT_EFFECT,
          FindingKind.PUBLIC_RIGHTS,
          FindingKind.CAN_SWITCH_ROLE,
          FindingKind.SUPERUSER_BY_MEMBERSHIP,
          FindingKind.SERVER_FILE_ACCESS,
          FindingKind.CAN_CREATE_ROLES);

  private final FindingContext context;

  public RemarkFinder(FindingContext context) {
    this.context = context;
  }

  @Override
  public void find(Consumer<Finding> out) {
    long asOf = context.model.asOf().getEpochSecond();
    for (SystemView view : context.model.systems()) {
      Memberships.Walker walker = view.memberships().walker();
      for (Remark remark :
          view.system()
              .remarks(
                  asOf,
                  subject -> {
                    SubjectSet all = new SubjectSet();
                    walker.subjects(subject, all);
                    return all;
                  })) {
        out.accept(finding(view, remark));
      }
    }
  }

  private Finding finding(SystemView view, Remark remark) {
    List<Evidence> evidence = new ArrayList<>();
    List<Change> changes = new ArrayList<>();
    for (int number : remark.grants()) {
      if (evidence.size() < FindingContext.LISTED) {
        evidence.add(new Evidence.Entry(view.number(), view.grants().get(number)));
      }
      if (remark.kind().isEndedByRemoval()) {
        changes.addAll(context.removal(view, number));
      }
    }
    return context.finding(
        FindingKind.of(remark.kind()),
        "",
        new Key(KeyKind.NODE, view.id(), remark.cause()),
        Weight.values()[remark.kind().weight()],
        new ListDetails.OfSystem(view.number(), remark),
        evidence,
        view.id(),
        context.keys(remark.subjects()),
        FindingContext.ending(changes));
  }
}
