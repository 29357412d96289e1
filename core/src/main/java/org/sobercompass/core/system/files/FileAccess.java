package org.sobercompass.core.system.files;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import java.util.function.IntFunction;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.membership.SubjectSet;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Basis;
import org.sobercompass.core.system.Decider;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Hindrance;
import org.sobercompass.core.system.ListLine;
import org.sobercompass.core.system.ListMark;
import org.sobercompass.core.system.ListWish;
import org.sobercompass.core.system.ListedSystem;
import org.sobercompass.core.system.Redefinition;
import org.sobercompass.core.system.Remark;
import org.sobercompass.core.system.Resources;
import org.sobercompass.core.system.Rights;
import org.sobercompass.core.system.RoleInfo;

/** Files and folders as an {@link AccessSystem}. Frozen and thread-safe. */
public final class FileAccess extends ListedSystem {
  private final List<Integer> administrators;
  private final FileFacts facts;
  private final Facts subjects;
  private final FileTrustees names;
  private @Nullable Ready ready;

  /** What is worked out when it is first asked for. O(paths). */
  private record Ready(FileGrants grants, FileDecider decider) {}

  /**
   * A file system with its lists.
   *
   * @param administrators trustees, by number, who may own folders without a remark
   */
  public FileAccess(
      Definition definition, List<Integer> administrators, FileFacts facts, Facts subjects) {
    super(definition);
    this.administrators = List.copyOf(administrators);
    this.facts = facts;
    this.subjects = subjects;
    this.names = new FileTrustees(subjects, definition.sight(), facts.style());
  }

  private synchronized Ready ready() {
    if (ready == null) {
      FileGrants grants = new FileGrants(facts, subjects);
      ready = new Ready(grants, new FileDecider(facts, grants));
    }
    return ready;
  }

  private FileGrants grants() {
    return ready().grants;
  }

  @Override
  public boolean isRemovable(int grant, Basis basis) {
    return grants().isRemovable(grant);
  }

  @Override
  protected AccessSystem without(int grant) {
    return new FileAccess(definition(), administrators, grants().without(grant), subjects);
  }

  @Override
  protected AccessSystem defined(Definition other) {
    return new FileAccess(other, administrators, facts, subjects);
  }

  /** The paths and lists. */
  public FileFacts facts() {
    return facts;
  }

  @Override
  public String kind() {
    return facts.style().kind();
  }

  @Override
  public String combining() {
    return switch (facts.style()) {
      case SHARED -> "what the lists of share and file both allow; the first entry decides";
      case NFS4 -> "the first entry decides; each folder above must let pass";
      case POSIX -> "one entry must allow all that is asked; each folder above must let pass";
    };
  }

  @Override
  public Rights rights() {
    return facts.style().rights();
  }

  @Override
  public Resources resources() {
    return facts.tree();
  }

  @Override
  public List<RoleInfo> roles() {
    return grants().roles();
  }

  @Override
  public List<Grant> grants(Basis basis) {
    return grants();
  }

  @Override
  public OptionalInt entry(int grant) {
    return grants().entry(grant);
  }

  private ListForm form() {
    return ListForm.of(facts, names);
  }

  @Override
  public Optional<String> entryText(int grant) {
    Optional<FileGrants.OfShare> ofShare = grants().ofShare(grant);
    if (ofShare.isPresent()) {
      FileFacts.Share share = facts.shares.get(ofShare.get().share());
      String entry = form().text(facts.lists[share.list()], ofShare.get().entry());
      return Optional.of(new ShareEntry(share.name(), entry).text());
    }
    OptionalInt entry = grants().entry(grant);
    return entry.isEmpty()
        ? Optional.empty()
        : facts.list(grants().resource(grant)).map(list -> form().text(list, entry.getAsInt() + 1));
  }

  @Override
  public List<ListWish.Edit> entryFor(int grant, int subject) {
    Optional<FileGrants.OfShare> ofShare = grants().ofShare(grant);
    if (ofShare.isPresent()) {
      FileFacts.Share share = facts.shares.get(ofShare.get().share());
      FileList list = facts.lists[share.list()];
      return form().entryFor(list, share.resource(), ofShare.get().entry(), id(subject)).stream()
          .map(
              edit ->
                  new ListWish.Edit(
                      edit.resource(), new ShareEntry(share.name(), edit.text()).text(), true))
          .toList();
    }
    OptionalInt entry = grants().entry(grant);
    if (entry.isEmpty()) {
      return List.of();
    }
    int resource = grants().resource(grant);
    FileList list = facts.list(resource).orElseThrow();
    return form().entryFor(list, resource, entry.getAsInt() + 1, id(subject));
  }

  private ListItems listItems() {
    return ListItems.of(facts, names);
  }

  private FileFacts with(Redefinition.ListItem item) {
    if (!item.added()) {
      return listItems().without(item.resource(), item.text());
    }
    Optional<ShareEntry> ofShare = share(item.text());
    if (ofShare.isPresent()) {
      return ((OrderedForm) form()).withShare(facts, item.resource(), ofShare.get());
    }
    return ListItems.isOwner(item.text())
        ? listItems().owned(item.resource(), item.text())
        : form().with(facts, item.resource(), item.text());
  }

  @Override
  public Map<Integer, List<ListWish.Edit>> items() {
    return listItems().all();
  }

  @Override
  public String itemFor(String text, int subject) {
    return listItems().renamed(text, id(subject));
  }

  @Override
  public String together(int resource, List<Integer> grants, boolean everybody) {
    List<Integer> entries =
        grants.stream().map(grant -> grants().entry(grant).getAsInt() + 1).toList();
    return beside().together((PosixList) facts.list(resource).orElseThrow(), entries, everybody);
  }

  @Override
  public List<ListWish.Edit> writing(int resource, String what, int subject) {
    PosixList list = (PosixList) facts.list(resource).orElseThrow();
    return beside().writing(list, resource, what, id(subject));
  }

  private PosixBeside beside() {
    return new PosixBeside(new PosixForm(facts.trustees(), names), names);
  }

  @Override
  public boolean namedDecides() {
    return facts.style() == FileStyle.POSIX;
  }

  @Override
  public Hindrance hindrance(ListWish.Edit entry) {
    return facts.isWaste(entry.resource()) ? Hindrance.WASTE_BIN : Hindrance.NONE;
  }

  @Override
  public boolean isExclusive(String text) {
    return ListItems.isOwner(text);
  }

  @Override
  public Optional<String> joined(String text, String other) {
    return Optional.of(PosixItems.joined(text, other));
  }

  @Override
  public boolean hasItem(int resource, String text) {
    return listItems().has(resource, text);
  }

  /** An entry of a 1003.1e list with the number of the user or group in place of the name. */
  public String numbered(String text) {
    return new PosixForm(facts.trustees(), names).numbered(text);
  }

  /** An entry of the list of a share; only those have one. */
  private Optional<ShareEntry> share(String text) {
    return facts.style() == FileStyle.SHARED ? ShareEntry.of(text) : Optional.empty();
  }

  @Override
  public String entryWords(String text) {
    Optional<ShareEntry> ofShare = share(text);
    if (ofShare.isPresent()) {
      return form().words(ofShare.get().entry()) + ", of the share " + ofShare.get().share();
    }
    return ListItems.isOwner(text) ? listItems().words(text) : form().words(text);
  }

  @Override
  public OptionalInt entryOf(int resource, String text) {
    Optional<ShareEntry> ofShare = share(text);
    if (ofShare.isPresent()) {
      ShareEntry one = ofShare.get();
      OptionalInt found = form().find(one.list(facts, resource), one.entry());
      return found.isEmpty()
          ? OptionalInt.empty()
          : OptionalInt.of(grants().shareGrant(one.number(facts, resource), found.getAsInt()));
    }
    OptionalInt entry =
        ListItems.isOwner(text)
            ? OptionalInt.empty()
            : facts.list(resource).map(list -> form().find(list, text)).orElse(OptionalInt.empty());
    return entry.isEmpty()
        ? OptionalInt.empty()
        : OptionalInt.of(grants().grant(resource, entry.getAsInt()));
  }

  @Override
  public List<ListWish.Edit> giving(ListWish wish) {
    return form().giving(facts, wish, id(wish.subject()));
  }

  @Override
  public List<ListWish.Edit> taking(ListWish wish) {
    List<ListWish.Edit> edits = form().taking(facts, wish, id(wish.subject()));
    if (edits.isEmpty()) {
      throw new IllegalArgumentException(
          "no entry at " + facts.tree().id(wish.resource()) + " itself gives it");
    }
    return edits;
  }

  private String id(int subject) {
    return names
        .id(subject)
        .orElseThrow(
            () ->
                new IllegalArgumentException(
                    subjects.title(subject)
                        + " has no number or SID by which "
                        + name()
                        + " could name it"));
  }

  @Override
  public AccessSystem redefined(Redefinition how) {
    return how.byKind(
        super::redefined,
        super::redefined,
        super::redefined,
        item -> new FileAccess(definition(), administrators, with(item), subjects),
        super::redefined);
  }

  @Override
  public Decider decider(Basis basis) {
    return ready().decider;
  }

  @Override
  public List<Remark> remarks(long asOf, IntFunction<SubjectSet> subjectsOf) {
    return new FileRemarks(facts, grants(), administrators, subjectsOf).all();
  }

  @Override
  public int unread() {
    return facts.unread();
  }

  @Override
  public List<ListLine> list(int resource) {
    List<ListLine> lines = new ArrayList<>();
    new FileLines(facts, grants()).of(resource, lines);
    return List.copyOf(lines);
  }

  @Override
  public String what(int resource) {
    return new FileLines(facts, grants()).what(resource);
  }

  @Override
  public Set<ListMark> marks(int resource) {
    return new FileLines(facts, grants()).marks(resource);
  }

  @Override
  public List<String> made(int resource) {
    return new FileLines(facts, grants()).made(resource);
  }
}
