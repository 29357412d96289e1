package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Can;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.admin.AdminModel;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.proposal.AsIn;
import org.sobercompass.core.proposal.Bound;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.ScopeSteps;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.core.scope.Scopes;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Enrolment;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.core.system.WrittenRole;
import org.sobercompass.organization.Organization;

/** What a preview says is what the changed files give when they are read again. */
class ChangedFilesTest {
  @TempDir Path folder;
  private Path root;

  @BeforeEach
  void write() {
    root = folder.resolve("w");
    DemoFiles.write(root);
  }

  /** Not at all, blocked, undecided, usable: of each right of each account at each node. */
  private static Map<String, Integer> ranks(Organization organization) {
    return ranks(organization.model());
  }

  private static Map<String, Integer> ranks(AccessModel model) {
    Map<String, Integer> all = new TreeMap<>();
    var asker = model.asker();
    for (SystemView view : model.systems()) {
      for (int a = 0; a < model.facts().accounts(); a++) {
        for (int right = 0; right < view.rights().size(); right++) {
          for (int node = 0; node < view.resources().size(); node++) {
            Can can = asker.can(view, a, right, node);
            int usable =
                can.verdict() == Verdict.NO ? 1 : can.verdict() == Verdict.UNDECIDED ? 2 : 3;
            all.put(
                a + " " + view.number() + " " + right + " at " + node,
                can.held() == Verdict.NO ? 0 : usable);
          }
        }
      }
    }
    return all;
  }

  /** Which right of which account is more than it was. */
  private static Set<String> more(Map<String, Integer> then, Map<String, Integer> now) {
    Set<String> all = new TreeSet<>();
    then.forEach(
        (cell, rank) -> {
          if (now.get(cell) > rank) {
            all.add(cell.replaceFirst(" at .*", ""));
          }
        });
    return all;
  }

  private static Set<String> told(List<Effects.Effect> effects) {
    Set<String> all = new TreeSet<>();
    effects.forEach(e -> all.add(e.account() + " " + e.system() + " " + e.right()));
    return all;
  }

  /** What is said before is what is read after: the changed tables are read again. */
  @Test
  void theEffectsArePreviewedAsTheChangedFilesGiveThem() {
    int differed = 0;
    for (int seed = 0; seed < 6; seed++) {
      Organization before = Organization.open(root);
      Proposal proposal = random(before, new Random(seed));
      Effects said = Effects.of(before.model(), proposal.on(before.model()).changes());
      Map<String, Integer> then = ranks(before);
      before.write(proposal, "", "");
      Map<String, Integer> now = ranks(Organization.open(root));
      String which = "seed " + seed + " " + proposal;
      assertThat(told(said.gives())).as(which).isEqualTo(more(then, now));
      assertThat(told(said.ends())).as(which).isEqualTo(more(now, then));
      differed += said.isNone() ? 0 : 1;
    }
    assertThat(differed).isGreaterThan(1);
  }

  /** Roles written otherwise, registers, states of accounts: said as the changed files give it. */
  @Test
  void whatIsDefinedOtherwiseIsPreviewedAsTheChangedFilesGiveIt() throws IOException {
    int differed = 0;
    for (int seed = 0; differed < 6; seed++) {
      assertThat(seed).isLessThan(40);
      Organization before = Organization.open(root);
      Random random = new Random(seed);
      int account = random.nextInt(before.model().facts().accounts());
      Proposal tables =
          new Proposal(
              "",
              List.of(role(before, random), register(before, random), register(before, random)));
      Step disabled = new Step.Disable(before.model().facts().key(account), true);
      Bound bound = tables.then(new Proposal("", List.of(disabled))).on(before.model());
      if (!bound.isSound()) {
        continue; // a circle of inclusions, or one step that takes back the other
      }
      Effects said = Effects.of(before.model(), bound.changes());
      Map<String, Integer> then = ranks(before);
      before.write(tables, "", "");
      if (bound.made().stream().anyMatch(m -> m.step() == 3)) {
        disable(before.model().facts(), account);
      }
      Map<String, Integer> now = ranks(Organization.open(root));
      String which = "seed " + seed + " " + tables + " " + disabled;
      assertThat(told(said.gives())).as(which).isEqualTo(more(then, now));
      assertThat(told(said.ends())).as(which).isEqualTo(more(now, then));
      differed += said.isNone() ? 0 : 1;
    }
  }

  private void disable(Facts facts, int account) throws IOException {
    Path export = root.resolve("directory/" + facts.source(account) + ".ldif");
    if (!Files.exists(export)) {
      Path table = root.resolve("directory/" + facts.source(account) + ".csv");
      throw new IllegalStateException("accounts of " + table + " have no state");
    }
    String text = Files.readString(export);
    String line = "dn: " + facts.dn(account) + "\n";
    assertThat(text).contains(line);
    Files.writeString(export, text.replace(line, line + "nsAccountLock: TRUE\n"));
  }

  private static Step role(Organization organization, Random random) {
    List<SystemView> views =
        organization.model().systems().stream()
            .filter(v -> !v.system().written().isEmpty())
            .toList();
    SystemView view = views.get(random.nextInt(views.size()));
    List<WrittenRole> roles = view.system().written();
    WrittenRole role = roles.get(random.nextInt(roles.size()));
    WrittenRole other = roles.get(random.nextInt(roles.size()));
    List<String> areas = new ArrayList<>(role.allows().keySet());
    if (areas.isEmpty() || random.nextInt(3) == 0) {
      List<String> includes = new ArrayList<>(role.includes());
      if (!includes.remove(other.id())) {
        includes.add(other.id());
      }
      return new Step.Role(view.id(), role.id(), "", role.includes(), includes);
    }
    String area = areas.get(random.nextInt(areas.size()));
    List<String> words =
        other.allows().values().stream()
            .findFirst()
            .filter(w -> random.nextBoolean())
            .orElse(List.of());
    return new Step.Role(view.id(), role.id(), area, role.own(area), words);
  }

  private static Step register(Organization organization, Random random) {
    Facts facts = organization.model().facts();
    String application = random.nextBoolean() ? "rounds" : "seedbook";
    List<Enrolment> lines =
        organization.model().system(application).orElseThrow().admission().register().orElseThrow();
    Enrolment line = lines.get(random.nextInt(lines.size()));
    boolean added = random.nextBoolean() || line.subject() < 0;
    return added
        ? new Step.Register(
            application,
            facts.key(random.nextInt(facts.accounts())),
            "directory",
            random.nextInt(3) > 0,
            false,
            "",
            true)
        : new Step.Register(
            application,
            facts.key(line.subject()),
            line.provider(),
            line.active(),
            line.secondFactor(),
            line.at(),
            false);
  }

  /** Scopes and admin roles: who is in which scope, and who is set over what, as said before. */
  @Test
  void scopesAndAdminRolesAreAsThePreviewHadThem() {
    int changed = 0;
    for (int seed = 0; seed < 15; seed++) {
      Organization before = Organization.open(root);
      Proposal proposal = delegating(before, new Random(seed));
      List<Change> changes = proposal.on(before.assessment().model()).changes();
      AdminModel said = before.assessment().with(changes).powers().roles();
      before.write(proposal, "", "");
      AdminModel read = Organization.open(root).powers().roles();
      String which = "seed " + seed + " " + proposal;
      for (int scope = 0; scope < said.scopes().all().size(); scope++) {
        assertThat(read.scopes().objects(scope)).as(which).isEqualTo(said.scopes().objects(scope));
        assertThat(read.administrators(scope)).as(which).isEqualTo(said.administrators(scope));
        changed +=
            said.scopes().objects(scope).equals(before.powers().roles().scopes().objects(scope))
                ? 0
                : 1;
      }
    }
    assertThat(changed).isGreaterThan(5);
  }

  private static Proposal delegating(Organization organization, Random random) {
    Facts facts = organization.model().facts();
    Scopes scopes = organization.powers().roles().scopes();
    ScopeSteps making = new ScopeSteps(facts, scopes);
    List<Step> steps = new ArrayList<>();
    for (int i = 0; i < 3; i++) {
      int scope = random.nextInt(scopes.all().size());
      int subject = random.nextInt(facts.accounts() + facts.groups());
      String groups = subject < facts.accounts() ? "" : random.nextBoolean() ? "members" : "both";
      steps.addAll(
          random.nextBoolean()
              ? making.include(scope, subject, groups)
              : making.except(scope, subject, groups));
    }
    steps.add(
        new Step.Assign(
            new Step.Assignment(
                "admin roles",
                random.nextBoolean() ? "helper" : "site-desk",
                facts.key(random.nextInt(facts.accounts())),
                scopes.all().get(random.nextInt(scopes.all().size())).id(),
                true,
                java.util.Optional.empty(),
                java.util.Optional.empty())));
    return new Proposal("", List.copyOf(new java.util.LinkedHashSet<>(steps)));
  }

  /** A copy that was changed in many ways is brought back, and nothing is left to do. */
  @Test
  void asInMakesAChangedCopyWhatItWas() {
    Path before = folder.resolve("before");
    DemoFiles.write(before);
    Organization was = Organization.open(before);
    int steps = 0;
    for (int seed = 0; seed < 8; seed++) {
      Organization copy = Organization.open(root);
      Proposal changed = random(copy, new Random(seed)).then(delegating(copy, new Random(seed)));
      copy.write(changed, "", "");
      Organization now = Organization.open(root);
      AsIn.Answer back = AsIn.of(now.assessment().model(), was.assessment().model());
      assertThat(back.left()).as("seed " + seed).isEmpty();
      Bound bound = back.proposal().on(now.assessment().model());
      assertThat(bound.notes()).as("seed " + seed).isEmpty();
      assertThat(ranks(now.model().with(plain(bound, now.model())))).isEqualTo(ranks(was.model()));
      now.write(back.proposal(), "", "");
      Organization again = Organization.open(root);
      assertThat(AsIn.of(again.assessment().model(), was.assessment().model()).proposal().steps())
          .as("seed " + seed)
          .isEmpty();
      steps += back.proposal().steps().size();
    }
    assertThat(steps).isGreaterThan(20);
  }

  /** The changes that are not of delegated administration. */
  private static List<Change> plain(Bound bound, AccessModel model) {
    int applications = model.systems().size();
    return bound.changes().stream()
        .filter(c -> c.fold(moved -> true, own -> own.system() < applications, a -> true))
        .toList();
  }

  private static Proposal random(Organization organization, Random random) {
    Facts facts = organization.model().facts();
    List<SystemView> views =
        organization.model().systems().stream()
            .filter(v -> v.assigned().stream().anyMatch(grant -> !grant.declared()))
            .toList();
    List<Step> steps = new ArrayList<>();
    for (int i = 0; i < 3; i++) {
      SystemView view = views.get(random.nextInt(views.size()));
      Step.Assignment what =
          new Step.Assignment(
              view.id(),
              view.system().roles().get(random.nextInt(view.system().roles().size())).id(),
              facts.key(random.nextInt(facts.accounts() + facts.groups())),
              view.resources().id(random.nextInt(view.resources().size())),
              true,
              java.util.Optional.empty(),
              java.util.Optional.empty());
      int grant = random.nextInt(view.grants().size());
      steps.add(
          random.nextBoolean() || view.grants().get(grant).declared()
              ? new Step.Assign(what)
              : Proposal.of(
                      "",
                      organization.model(),
                      List.of(new Change.AssignmentRemoved(view.number(), grant)))
                  .steps()
                  .get(0));
    }
    return new Proposal("random", steps);
  }
}
