package org.sobercompass.core.system.files;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntFunction;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.CellSweep;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Crowd;
import org.sobercompass.core.system.Decider;
import org.sobercompass.core.system.Decision;
import org.sobercompass.core.system.GrantSink;
import org.sobercompass.core.system.Impact;
import org.sobercompass.core.system.Layer;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Projected;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Token;
import org.sobercompass.core.system.Trustees;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.core.system.Who;
import org.sobercompass.core.system.files.FileList.Entry;
import org.sobercompass.core.system.files.FileNeeds.Check;
import org.sobercompass.core.system.files.FileNeeds.Need;

/** Decides over paths and their lists. */
final class FileDecider implements Decider {
  private final FileFacts facts;
  private final FileGrants grants;
  private final FileNeeds needs;

  FileDecider(FileFacts facts, FileGrants grants) {
    this.facts = facts;
    this.grants = grants;
    this.needs = new FileNeeds(facts);
  }

  @Override
  public Projected project(Token token) {
    return Who.of(token, facts.trustees);
  }

  @Override
  public Verdict decide(Projected who, Question question) {
    FileMasks masks = FileMasks.once(facts, (Who) who);
    int r = question.resource();
    if (question.allOf().length == 0) {
      return come(masks, r);
    }
    if (has(masks, question, masks.rights(r, masks.reaches(r, false), false), false)) {
      return Verdict.YES;
    }
    return has(masks, question, masks.rights(r, masks.reaches(r, true), true), true)
        ? Verdict.UNDECIDED
        : Verdict.NO;
  }

  /** Nothing is asked but to come there: whether all folders above let pass. */
  private static Verdict come(FileMasks masks, int resource) {
    if (masks.reaches(resource, false)) {
      return Verdict.YES;
    }
    return masks.reaches(resource, true) ? Verdict.UNDECIDED : Verdict.NO;
  }

  /**
   * Whether all rights asked for are there, together: of a POSIX list one entry must allow reading,
   * writing and executing as far as they are asked.
   */
  private boolean has(FileMasks masks, Question question, long rights, boolean favourable) {
    int together = 0;
    for (int right : question.allOf()) {
      if ((rights >>> right & 1) == 0) {
        return false;
      }
      together |=
          switch (right) {
            case FileRights.POSIX_READ -> 4;
            case FileRights.POSIX_WRITE -> 2;
            case FileRights.POSIX_EXECUTE -> 1;
            case FileRights.POSIX_CREATE -> 3;
            default -> 0;
          };
    }
    return facts.style != FileStyle.POSIX
        || together == 0
        || (masks.own(question.resource(), favourable) >>> together & 1) != 0;
  }

  @Override
  public void sweep(Projected who, GrantSink out) {
    if (who.isEmpty()) {
      return;
    }
    FileMasks masks = FileMasks.remembering(facts, (Who) who);
    boolean[] sure = new boolean[facts.tree.size()];
    boolean[] maybe = new boolean[facts.tree.size()];
    boolean searched = facts.style.isSearched();
    new CellSweep(facts.tree)
        .run(
            (r, into) -> {
              int above = facts.tree.parent(r);
              boolean free = above < 0 || !searched;
              sure[r] = free || (sure[above] && masks.passes(above, false));
              maybe[r] = free || (maybe[above] && masks.passes(above, true));
              into[0] = masks.rights(r, sure[r], false);
              into[1] = masks.rights(r, maybe[r], true) & ~into[0];
            },
            out);
  }

  @Override
  public Decision explain(Token token, Question question, Limits limits) {
    Who who = (Who) project(token);
    Verdict verdict = decide(who, question);
    Decision first = Decision.of(verdict);
    for (int right : question.allOf()) {
      Decision own =
          new FileExplanation(facts, grants, who, question.resource(), right)
              .decision(decide(who, Question.of(question.resource(), right)), limits);
      first = first.joined(own);
    }
    return first;
  }

  @Override
  public List<Layer> layers(Token token, Question question) {
    Who who = (Who) project(token);
    List<Layer> layers = new ArrayList<>();
    for (int right : question.allOf()) {
      for (Layer layer :
          new FileExplanation(facts, grants, who, question.resource(), right).layers()) {
        if (!layers.contains(layer)) {
          layers.add(layer);
        }
      }
    }
    return layers;
  }

  @Override
  public Optional<Crowd> crowd(Question question, Crowd.Members members, long asOf) {
    if (question.allOf().length != 1 || !members.areCertain()) {
      return Optional.empty();
    }
    List<Need> layers = needs.of(question.resource(), question.allOf()[0]);
    Map<Integer, BitSet> known = new HashMap<>();
    FileList.Members ofTrustee =
        (t, wide) ->
            known.computeIfAbsent(
                wide && t >= 0 && facts.trustees.isOpen(t) ? Trustees.EVERYONE : t,
                trustee -> ofTrustee(trustee, members::surely));
    BitSet yes = crowd(layers, false, ofTrustee);
    BitSet perhaps = crowd(layers, true, ofTrustee);
    perhaps.andNot(yes);
    return Optional.of(new Crowd(yes, perhaps));
  }

  private BitSet ofTrustee(int trustee, IntFunction<BitSet> members) {
    BitSet all = new BitSet();
    IntList subjects = facts.trustees.subjects(trustee);
    for (int i = 0; i < subjects.size(); i++) {
      all.or(members.apply(subjects.get(i)));
    }
    return all;
  }

  private BitSet crowd(List<Need> layers, boolean favourable, FileList.Members members) {
    BitSet all = (BitSet) members.of(Trustees.EVERYONE, false).clone();
    for (Need layer : layers) {
      BitSet any = new BitSet();
      for (Check check : layer.anyOf()) {
        if (check.list() >= 0) {
          boolean folder = check.share() >= 0 || facts.isFolder(check.resource());
          any.or(facts.lists[check.list()].crowd(check.need(), favourable, folder, members));
        } else {
          unread(check, favourable, members, any);
        }
      }
      all.and(any);
    }
    return all;
  }

  /** Of a list that was not read it is only known what the superuser may. */
  private void unread(Check check, boolean favourable, FileList.Members members, BitSet any) {
    if (favourable && (check.need() & FileRights.ROOT) == 0) {
      any.or(members.of(Trustees.EVERYONE, false));
    }
    boolean run = favourable || facts.isFolder(check.resource());
    if (facts.superuser >= 0 && (PosixList.ofSuperuser(run) & check.need()) == check.need()) {
      any.or(members.of(facts.superuser, false));
    }
  }

  @Override
  public IntList trustees() {
    return facts.trustees.named();
  }

  /** O(paths): lists are shared, but each path has grants of its own. */
  @Override
  public IntList grantsOf(Token token) {
    Who who = (Who) project(token);
    IntList all = new IntList();
    for (int r = 0; r < facts.tree.size(); r++) {
      for (int g = grants.first(r); g < grants.first(r) + grants.count(r); g++) {
        Entry entry = facts.lists[facts.listOf[r]].entries().get(grants.entry(r, g));
        if (entry.trustee() >= 0 && who.surely(entry.trustee())) {
          all.add(g);
        }
      }
    }
    for (int g = grants.first(facts.tree.size()); g < grants.size(); g++) {
      int subject = grants.get(g).subject();
      if (subject >= 0 && token.subjects().sure().contains(subject)) {
        all.add(g);
      }
    }
    return all;
  }

  @Override
  public IntList giving(int resource, int right, boolean below) {
    IntList giving = new IntList();
    BitSet seen = new BitSet();
    int end = below ? facts.tree.end(resource) : resource + 1;
    for (int r = resource; r < end; r++) {
      int parent = facts.tree.parent(r);
      int pair = facts.listOf[r];
      if (r == resource || pair < 0 || !seen.get(pair) || givesToChildren(right)) {
        give(r, right, giving);
        if (parent >= 0 && givesToChildren(right)) {
          give(parent, right, giving);
        }
        seen.set(Math.max(pair, 0));
      }
    }
    if (facts.superuser >= 0) {
      giving.add(grants.superuserGrant());
    }
    return giving;
  }

  @Override
  public boolean isOpen(int resource, boolean below) {
    int end = below ? facts.tree.end(resource) : resource + 1;
    boolean open = facts.trustees.hasOpen() || isUnread(facts.tree.parent(resource));
    for (int r = resource; r < end && !open; r++) {
      open = isUnread(r);
    }
    for (FileFacts.Share share : facts.shares) {
      open |= share.list() < 0;
    }
    return open;
  }

  /** Whether nothing was read of a list, or a mode that may hide one. */
  private boolean isUnread(int resource) {
    if (resource < 0) {
      return false;
    }
    int list = facts.listOf[resource];
    return list < 0 || (facts.lists[list] instanceof PosixList posix && posix.mayHideList());
  }

  /** Whether a right may come from the folder above: deleting, and what contains it. */
  private boolean givesToChildren(int right) {
    return facts.style == FileStyle.POSIX
        ? right == FileRights.POSIX_DELETE
        : (FileRights.ENTRIES.mask(right) & (FileRights.DELETE | FileRights.READ_ATTRIBUTES)) != 0;
  }

  private void give(int resource, int right, IntList giving) {
    if (facts.listOf[resource] < 0) {
      return;
    }
    List<Entry> entries = facts.lists[facts.listOf[resource]].entries();
    long wanted = wanted(right);
    for (int e = 0; e < entries.size(); e++) {
      Entry entry = entries.get(e);
      if (entry.counts() && !entry.denies() && (entry.rights() & wanted) != 0) {
        giving.add(grants.grant(resource, e));
      }
    }
  }

  /** The rights, one bit each, of entries that can give one. */
  private long wanted(int right) {
    if (facts.style == FileStyle.POSIX) {
      return 1L << (right == FileRights.POSIX_DELETE ? FileRights.POSIX_CREATE : right);
    }
    long mask = FileRights.ENTRIES.mask(right);
    mask |= (mask & FileRights.DELETE) != 0 ? FileRights.DELETE_CHILD : 0;
    mask |= (mask & FileRights.READ_ATTRIBUTES) != 0 ? FileRights.READ_DATA : 0;
    return FileRights.ENTRIES.touching(mask);
  }

  @Override
  public boolean isAdditive() {
    return facts.style != FileStyle.POSIX;
  }

  @Override
  public Impact impact(Change change) {
    int all = facts.tree.size();
    return change.fold(
        moved -> new Impact(IntList.of(moved.member()), 0, all),
        own ->
            own.byKind(
                added -> new Impact(IntList.of(added.subject()), 0, all),
                removed -> {
                  // A trustee may stand for several accounts, or for anybody.
                  int resource = grants.resource(removed.grant());
                  int everyone = facts.trustees.subject(Trustees.EVERYONE);
                  return new Impact(IntList.of(everyone), resource, facts.tree.end(resource));
                },
                otherwise ->
                    new Impact(IntList.of(facts.trustees.subject(Trustees.EVERYONE)), 0, all)),
        self -> new Impact(IntList.of(self.subject()), 0, all));
  }
}
