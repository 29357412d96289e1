package org.sobercompass.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Random;
import java.util.function.LongSupplier;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.RouteFinder;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.admin.Asked;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.removal.Effects;
import org.sobercompass.core.system.Limits;
import org.sobercompass.organization.Names;
import org.sobercompass.organization.Organization;

/**
 * How the cost of each question grows with the number of accounts: {@code Growth DIR FILE} asks all
 * questions of one workspace and adds a line for each to a table; {@link GrowthChart} draws it.
 */
public final class Growth {
  static final String HEADER = "accounts,group,question,seconds";
  private static final int SINGLE = 25;
  private static final int FEW = 5;

  private final Organization organization;
  private final AccessModel model;
  private final Facts facts;
  private final Asker asker;
  private final Path table;
  private final Random random = new Random(3);

  private Growth(Organization organization, Path table) {
    this.organization = organization;
    this.model = organization.model();
    this.facts = model.facts();
    this.asker = model.asker();
    this.table = table;
  }

  /** Measures one workspace, in a process of its own. */
  public static void main(String[] args) throws IOException {
    Path table = Path.of(args[1]);
    if (Files.notExists(table)) {
      Files.writeString(table, HEADER + "\n");
    }
    long begin = System.nanoTime();
    Organization organization = Organization.open(Path.of(args[0]));
    double opened = (System.nanoTime() - begin) / 1e9;
    Growth growth = new Growth(organization, table);
    growth.tell("all", "opened", opened);
    growth.single();
    growth.all();
  }

  private void single() throws IOException {
    median("one", "may an account do something", SINGLE, this::decide);
    median("one", "why: all routes", SINGLE, this::routes);
    median("one", "all that one account holds", SINGLE, () -> asker.holdings(account()).size());
    median("one", "who can reset a password", FEW, this::holdersOfAction);
    median("one", "who can write a file", FEW, () -> holders(model.system("files").orElseThrow()));
    median("one", "who holds a permission", FEW, () -> holders(any()));
    median("one", "preview: one assignment", SINGLE, () -> effects(assign()));
    median("one", "preview: an account disabled", SINGLE, () -> effects(disable()));
    median("one", "preview: an account into a group", SINGLE, () -> effects(join()));
    median("one", "ways to end one permission", FEW, this::removals);
  }

  private void all() throws IOException {
    BitSet others = new BitSet();
    others.set(0, model.systems().size());
    others.clear(model.system("files").orElseThrow().number());
    median(
        "all",
        "all effective permissions but of files",
        FEW,
        () -> Yardstick.sweep(model, 2, others));
    median(
        "all",
        "separation of duties, all accounts",
        FEW,
        () -> Findings.conflicts(organization.assessment()).size());
    median("all", "all findings", 1, () -> Findings.of(organization.assessment()).size());
  }

  private int account() {
    return random.nextInt(facts.accounts());
  }

  private SystemView any() {
    SystemView view = model.systems().get(random.nextInt(model.systems().size()));
    return view.id().equals("files") ? any() : view;
  }

  private int decide() {
    SystemView view = any();
    int right = random.nextInt(view.rights().size());
    int resource = random.nextInt(view.resources().size());
    return asker.can(view, account(), right, resource).verdict().ordinal();
  }

  private int routes() {
    SystemView view = any();
    int right = random.nextInt(view.rights().size());
    int resource = random.nextInt(view.resources().size());
    return new RouteFinder(asker, Limits.USUAL)
        .find(view, account(), right, resource)
        .open()
        .size();
  }

  private int holdersOfAction() {
    Names names = organization.names();
    String account = facts.dn(account());
    return organization.holders(names.asked("set-password", account)).yes().cardinality();
  }

  private int holders(SystemView view) {
    Names names = organization.names();
    String right = view.id() + ":" + view.rights().text(random.nextInt(view.rights().size()));
    Asked.Use asked =
        names.at(
            names.permission(right), view.resources().id(random.nextInt(view.resources().size())));
    return organization.holders(asked).yes().cardinality();
  }

  private Step assign() {
    SystemView view = any();
    return new Step.Assign(
        new Step.Assignment(
            view.id(),
            view.system().roles().get(random.nextInt(view.system().roles().size())).id(),
            facts.key(account()),
            view.resources().id(random.nextInt(view.resources().size())),
            true,
            Optional.empty(),
            Optional.empty()));
  }

  private Step disable() {
    return new Step.Disable(facts.key(account()), true);
  }

  private Step join() {
    int groups = facts.groups();
    return new Step.Join(
        facts.key(account()), facts.key(facts.firstGroup() + random.nextInt(groups)));
  }

  private int effects(Step step) {
    Effects effects = Effects.of(model, new Proposal("", List.of(step)).on(model).changes());
    return effects.gives().size() + effects.ends().size();
  }

  private int removals() {
    while (true) {
      int account = account();
      SystemView view = any();
      var held = asker.holdings(view, account);
      if (!held.isEmpty()) {
        var one = held.get(random.nextInt(held.size()));
        Names names = organization.names();
        Asked.Use asked =
            names.at(
                names.permission(view.id() + ":" + view.rights().text(one.right())),
                view.resources().id(one.resource()));
        return organization.unpick(organization.account(account), List.of(asked), 3).size();
      }
    }
  }

  private void median(String group, String what, int tries, LongSupplier work) throws IOException {
    double[] seconds = new double[tries];
    long answers = 0;
    for (int i = 0; i < tries; i++) {
      long begin = System.nanoTime();
      answers += work.getAsLong();
      seconds[i] = (System.nanoTime() - begin) / 1e9;
    }
    Arrays.sort(seconds);
    System.out.printf(Locale.ROOT, "%-40s %,d answers in all%n", what, answers);
    tell(group, what, seconds[tries / 2]);
  }

  private void tell(String group, String what, double seconds) throws IOException {
    String row =
        String.format(Locale.ROOT, "%d,%s,\"%s\",%.6f%n", facts.accounts(), group, what, seconds);
    System.out.print(row);
    Files.writeString(table, row, StandardOpenOption.APPEND);
  }
}
