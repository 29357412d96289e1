package org.sobercompass.organization;

import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.amendment.Amendment;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.Difference;
import org.sobercompass.core.delegation.DirectoryLists;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Plain;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.system.AccessSystem;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Redefinition;
import org.sobercompass.sources.Drafts;
import org.sobercompass.sources.SourceKind;
import org.sobercompass.sources.SystemFormat;
import org.sobercompass.sources.SystemFormats;
import org.sobercompass.sources.disk.Folder;
import org.sobercompass.sources.text.EditedFile;
import org.sobercompass.sources.workspace.DirectoryFile;
import org.sobercompass.sources.workspace.Workspace;
import org.sobercompass.sources.workspace.WorkspaceTargetKind;

/**
 * Makes an amendment of a proposal: each step becomes records of the system that it changes, by the
 * registration of that kind of system. Use once.
 */
final class AmendmentMaker implements Step.Cases<Boolean> {
  private final Workspace workspace;
  private final AccessModel model;
  private final Facts facts;
  private final Function<Change, String> words;
  private final Drafts drafts = new Drafts();
  private final Map<String, List<SourceKind.Wish>> wishes = new LinkedHashMap<>();
  private final Map<String, List<SourceKind.Gone>> objects = new LinkedHashMap<>();
  private final Map<String, List<SourceKind.Comes>> additions = new LinkedHashMap<>();
  private final Map<Integer, List<SystemFormat.Gone>> entries = new LinkedHashMap<>();
  private final Map<Integer, List<SystemFormat.Comes>> more = new LinkedHashMap<>();
  private final Map<Integer, Step> mapping = new LinkedHashMap<>();
  private Map<Integer, List<Change>> changes = Map.of();
  private int number;

  AmendmentMaker(Workspace workspace, AccessModel model, Function<Change, String> words) {
    this.workspace = workspace;
    this.model = model;
    this.facts = model.facts();
    this.words = words;
  }

  Amendment make(Proposal proposal, Map<String, String> as, Instant now) {
    Bound bound = proposal.on(model);
    Problems problems = new Problems();
    for (Bound.Note note : bound.notes()) {
      if (note.isWrong()) {
        problems.error(
            Place.of("step " + (note.step() + 1)), note.what(), "a step that can be made");
      }
    }
    problems.throwIfErrors();
    changes = bound.byStep();
    for (int step : changes.keySet()) {
      number = step;
      proposal.steps().get(step).in(this);
    }
    for (DirectoryFile directory : workspace.directories()) {
      List<SourceKind.Wish> steps = wishes.getOrDefault(directory.name(), List.of());
      List<SourceKind.Gone> gone = objects.getOrDefault(directory.name(), List.of());
      List<SourceKind.Comes> come = additions.getOrDefault(directory.name(), List.of());
      if (!steps.isEmpty() || !gone.isEmpty() || !come.isEmpty()) {
        SourceKind.Wanted wanted =
            new SourceKind.Wanted(directory.name(), facts, directory.entries(), steps, gone, come);
        directory.kind().amend(wanted, drafts);
      }
    }
    Set<String> known =
        workspace.directories().stream().map(DirectoryFile::name).collect(Collectors.toSet());
    wishes.forEach(
        (directory, steps) -> {
          if (!known.contains(directory)) {
            String why = "it stands in no directory, but in the settings of the workspace";
            steps.forEach(one -> drafts.byHand(one.step(), why));
          }
        });
    entries.forEach(this::lists);
    mapping();
    return amendment(proposal, as, now);
  }

  private void lists(int system, List<SystemFormat.Gone> gone) {
    SystemView view = model.view(system);
    Optional<SystemFormat> format = SystemFormats.of(view.system().kind());
    List<SystemFormat.Comes> come = more.getOrDefault(system, List.of());
    if (format.isPresent()) {
      Set<Integer> steps = Drafts.steps(gone);
      steps.addAll(Drafts.steps(come));
      List<Change> own = steps.stream().flatMap(step -> changes(step).stream()).toList();
      AccessSystem then = model.with(own).view(system).system();
      Folder root = Folder.of(workspace.root());
      format.get().amend(new SystemFormat.Wanted(view.system(), then, root, gone, come), drafts);
    } else {
      String why = view.system().name() + " is only read";
      gone.forEach(one -> drafts.byHand(one.step(), why));
      come.forEach(one -> drafts.byHand(one.step(), why));
    }
  }

  /** What stands in the workspace's own files: each file as it was and as it is to be. */
  private void mapping() {
    if (mapping.isEmpty()) {
      return;
    }
    List<Integer> numbers = List.copyOf(mapping.keySet());
    Proposal own = new Proposal("", List.copyOf(mapping.values()));
    // What other records create may be named.
    List<Change> created =
        changes.values().stream()
            .map(all -> all.get(0))
            .filter(one -> one instanceof Change.PresenceChanged coming && coming.isThere())
            .toList();
    MappingFiles files = new MappingFiles(workspace, model.with(created));
    for (EditedFile file : files.edited(own, "", "")) {
      drafts.add(
          new Drafts.Draft(
              files.steps(file).stream().map(numbers::get).collect(Collectors.toSet()),
              WorkspaceTargetKind.ID,
              WorkspaceTargetKind.ID,
              file.name(),
              List.of(new Difference("text", List.of(file.read()), List.of(file.text())))));
    }
  }

  private Amendment amendment(Proposal proposal, Map<String, String> as, Instant now) {
    List<AmendmentRecord> records = new ArrayList<>();
    Map<String, Amendment.Target> targets = new LinkedHashMap<>();
    for (Drafts.Draft draft : drafts.all()) {
      String name = name(draft, targets);
      targets.putIfAbsent(
          name, new Amendment.Target(name, draft.kind(), Optional.ofNullable(as.get(name))));
      String does =
          String.join("; ", draft.steps().stream().sorted().map(this::change).map(words).toList());
      records.add(
          new AmendmentRecord(
              records.size() + 1, name, draft.place(), draft.id(), does, draft.differences()));
    }
    List<String> byHand =
        drafts.left().stream()
            .map(left -> Plain.text(words.apply(change(left.step())) + ": " + left.why()))
            .toList();
    return new Amendment(
        proposal.name(), now, restsOn(), List.copyOf(targets.values()), records, byHand);
  }

  /** A directory and an application may have the same name, and are changed in different ways. */
  private static String name(Drafts.Draft draft, Map<String, Amendment.Target> targets) {
    Amendment.Target other = targets.get(draft.target());
    return other == null || other.kind().equals(draft.kind())
        ? draft.target()
        : draft.target() + "-" + draft.kind();
  }

  private String restsOn() {
    return workspace
        .taken()
        .map(taken -> "what was read as of " + taken)
        .orElse("what was read, of which not all says when it was taken");
  }

  @Override
  public Boolean join(Step.Join step) {
    return ofDirectory(step);
  }

  @Override
  public Boolean leave(Step.Leave step) {
    return ofDirectory(step);
  }

  @Override
  public Boolean account(Step.Disable step) {
    return ofDirectory(step);
  }

  @Override
  public Boolean ends(Step.Ends step) {
    return ofDirectory(step);
  }

  @Override
  public Boolean hosts(Step.Hosts step) {
    return ofDirectory(step);
  }

  @Override
  public Boolean primary(Step.Primary step) {
    return ofDirectory(step);
  }

  @Override
  public Boolean presence(Step.Presence step) {
    return ofDirectory(step);
  }

  private Boolean ofDirectory(Step.OfDirectory step) {
    String directory = facts.find(step.entry()).map(facts::source).orElse("");
    return wishes
        .computeIfAbsent(directory, d -> new ArrayList<>())
        .add(new SourceKind.Wish(number, step));
  }

  @Override
  public Boolean entry(Step.Entry step) {
    return change(number)
        .fold(
            moved -> false,
            own -> own.byKind(added -> false, gone -> removed(gone, step), redefined -> false),
            account -> false);
  }

  @Override
  public Boolean item(Step.ListItem step) {
    return change(number)
        .fold(
            moved -> false,
            own ->
                own.byKind(
                    added -> false,
                    gone -> removed(gone, step),
                    redefined ->
                        redefined
                            .how()
                            .byKind(
                                scope -> false,
                                register -> false,
                                role -> false,
                                item -> comes(redefined.system(), item),
                                written -> false)),
            account -> false);
  }

  private Boolean comes(int system, Redefinition.ListItem item) {
    if (model.view(system).system() instanceof DirectoryLists lists) {
      return additions
          .computeIfAbsent(lists.tree().directory(), d -> new ArrayList<>())
          .add(new SourceKind.Comes(number, lists.tree().dn(item.resource()), item.text()));
    }
    entries.computeIfAbsent(system, s -> new ArrayList<>());
    return more.computeIfAbsent(system, s -> new ArrayList<>())
        .add(new SystemFormat.Comes(number, item.resource(), item.text(), item.added()));
  }

  private List<Change> changes(int step) {
    return Objects.requireNonNull(changes.get(step));
  }

  /** What a step is, of all that it comes to. */
  private Change change(int step) {
    return changes(step).get(0);
  }

  private Boolean removed(Change.AssignmentRemoved change, Step step) {
    SystemView view = model.view(change.system());
    if (!view.system().isOfLists()) {
      // An assignment that names nobody who is there has no key.
      return ofMapping(step);
    }
    if (view.system() instanceof DirectoryLists lists) {
      int object = view.grants().get(change.grant()).resource();
      int entry = view.system().entry(change.grant()).orElse(-1);
      return objects
          .computeIfAbsent(lists.tree().directory(), d -> new ArrayList<>())
          .add(new SourceKind.Gone(number, lists.tree().dn(object), entry));
    }
    return entries
        .computeIfAbsent(change.system(), s -> new ArrayList<>())
        .add(new SystemFormat.Gone(number, change.grant()));
  }

  private Boolean ofMapping(Step step) {
    mapping.put(number, step);
    return true;
  }

  @Override
  public Boolean assign(Step.Assign step) {
    return ofMapping(step);
  }

  @Override
  public Boolean withdraw(Step.Withdraw step) {
    return ofMapping(step);
  }

  @Override
  public Boolean line(Step.Line step) {
    return ofMapping(step);
  }

  @Override
  public Boolean register(Step.Register step) {
    return ofMapping(step);
  }

  @Override
  public Boolean role(Step.Role step) {
    return ofMapping(step);
  }

  @Override
  public Boolean setting(Step.Setting step) {
    return ofMapping(step);
  }
}
