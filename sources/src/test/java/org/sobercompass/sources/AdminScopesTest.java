package org.sobercompass.sources;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Holders;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.admin.ActReadiness;
import org.sobercompass.core.admin.AdminCheck;
import org.sobercompass.core.admin.AdminModel;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.filter.Truth;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.sources.delegation.DelegatedSystems;

/** Admin scopes, admin roles, and what they let whom do to whom. */
class AdminScopesTest {
  @TempDir Path root;

  private SmallWorkspace people() {
    return new SmallWorkspace(root)
        .unit("glass")
        .unit("vault")
        .unit("groups")
        .account("ann", "glass", "title: Keeper")
        .account("bo", "glass")
        .account("cy", "vault", "title: keeper")
        .account("di", "vault")
        .group("crew", "uid=bo,ou=glass", "cn=inner,ou=groups")
        .group("inner", "uid=di,ou=vault")
        .group("nobody")
        .main("admin: admin.yaml\n");
  }

  private static final String ROLES =
      "roles:\n"
          + "  editor: {actions: [edit-members]}\n"
          + "  desk: {name: Desk, actions: [set-password, unlock]}\n"
          + "  whole: {actions: [full-control], limitable: no}\n"
          + "assignments: admin.csv\n";

  private Powers powers(String scopes, String... rows) {
    SmallWorkspace workspace = people();
    workspace.write("admin.yaml", scopes + ROLES);
    workspace.write(
        "admin.csv", "role,kind,subject,scope,from,until,on\n" + String.join("\n", rows) + "\n");
    SmallWorkspace.Asked asked =
        workspace.with("sight: {directory: main}\nareas: [a]\nlevels: [view]\nroles: {r: {}}\n");
    return DelegatedSystems.powers(asked.model(), asked.workspace().administration(), List.of());
  }

  private static String in(Powers powers, int scope) {
    return powers.roles().scopes().objects(scope).bits().stream()
        .mapToObj(s -> powers.model().facts().login(s))
        .collect(Collectors.toCollection(TreeSet::new))
        .stream()
        .collect(Collectors.joining(" "));
  }

  private static int number(Powers powers, SubjectKind kind, String name) {
    return NameResolver.find(powers.model().facts(), kind, name).get(0);
  }

  private static Verdict can(Powers powers, String who, String action, String whom) {
    AdminAction act = powers.roles().administration().action(action).orElseThrow();
    return powers.can(
        number(powers, SubjectKind.ACCOUNT, who),
        act,
        powers.thing(number(powers, SubjectKind.ACCOUNT, whom)),
        Optional.empty());
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "include: [{subtree: \"ou=glass,dc=x\"}]                       | ann bo glass",
        "include: [{subtree: \"OU=Glass, dc=x\"}], except: [{account: bo}] | ann glass",
        "include: [{account: ann}, {unit: vault}]                      | ann vault",
        "include: [{group: crew, groups: object}]                      | crew",
        "include: [{group: crew, groups: members}]                     | bo di",
        "include: [{group: crew, groups: both}]                        | bo crew di",
        "include: [{group: crew, groups: members, nested: yes}]        | bo di inner",
        "include: [{where: \"(title=keeper)\"}]                        | ann cy",
        "include: [{subtree: \"dc=x\", groups: members}], except: [{where: \"(title=keeper)\"}] |"
            + " bo di glass groups vault",
        "include: [{subtree: \"ou=vault,dc=x\"}], except: [{group: inner, groups: members}] | cy"
            + " vault",
        "include: [{file: people.csv, groups: members}]                | ann bo di"
      })
  void aScopeIsWhatItIncludesWithoutWhatItExcepts(String lines, String names) throws Exception {
    Files.writeString(root.resolve("people.csv"), "kind,subject\naccount,ann\ngroup,crew\n");
    assertThat(in(powers("scopes: {s: {" + lines + "}}\n"), 0)).isEqualTo(names);
  }

  @Test
  void innerExceptionsStayInnerAndReasonsAreTold() {
    Powers powers =
        powers(
            "scopes:\n  glass: {include: [{subtree: \"ou=glass,dc=x\"}], except: [{account: bo}]}\n"
                + "  all: {include: [{scope: glass}, {group: crew, groups: members}]}\n");
    assertThat(in(powers, 0)).isEqualTo("ann glass");
    assertThat(in(powers, 1)).isEqualTo("ann bo di glass");
    int bo = number(powers, SubjectKind.ACCOUNT, "bo");
    assertThat(powers.roles().scopes().reasons(1, bo)).containsExactly("group crew");
    assertThat(powers.roles().scopes().excepted(0, bo)).contains("account bo");
    assertThat(powers.roles().scopes().of(bo)).containsExactly(1);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "s: {include: [{scope: t}]}, t: {include: [{scope: s}]} | the scope is made of itself: s ->"
            + " t -> s",
        "s: {include: [{scope: s}]}                      | the scope is made of itself: s -> s",
        "s: {include: [{subtree: \"ou=groups,dc=x\"}]}   | the group crew comes in, and it is not"
            + " said what it stands for",
        "s: {include: [{group: crew}]}                   | the group crew comes in, and it is not"
            + " said what it stands for",
        "s: {include: [{scope: nothing}]}                | there is no scope \"nothing\"",
        "s: {include: [{where: \"(title=\"}]}            | the filter \"(title=\" is wrong at its"
            + " column",
        "s: {include: [{subtree: glass}]}                | \"glass\" is no DN",
        "s: {include: [{account: ann, group: crew}]}     | the line names account and group",
        "s: {include: []}                                | the scope includes nothing",
        "s: {include: [{account: ann, groups: all}]}     | groups: \"all\" is not known"
      })
  void wrongScopesAreToldWithTheirPlace(String scopes, String what) {
    assertThatThrownBy(() -> powers("scopes: {" + scopes + "}\n"))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining(what)
        .hasMessageContaining("admin.yaml");
  }

  private static final String TWO =
      "scopes:\n  glass: {name: Glass, include: [{subtree: \"ou=glass,dc=x\"}]}\n"
          + "  vault: {name: Vault, include: [{subtree: \"ou=vault,dc=x\"}]}\n";

  @Test
  void anAdminRoleReachesAsFarAsItsScope() {
    Powers powers = powers(TWO, "desk,group,inner,glass,,,", "whole,account,cy,everything,,,");
    assertThat(can(powers, "di", "set-password", "ann")).isEqualTo(Verdict.YES);
    // No admin role gives it; whether the directory itself does was not read.
    assertThat(can(powers, "di", "set-password", "cy")).isEqualTo(Verdict.UNDECIDED);
    assertThat(can(powers, "di", "enable-disable", "ann")).isEqualTo(Verdict.UNDECIDED);
    assertThat(can(powers, "cy", "full-control", "ann")).isEqualTo(Verdict.YES);
    AdminAction reset = powers.roles().administration().action("set-password").orElseThrow();
    int ann = number(powers, SubjectKind.ACCOUNT, "ann");
    assertThat(powers.who(reset, powers.thing(ann), Optional.empty()).yes().cardinality())
        .isEqualTo(1);
    assertThat(
            powers.ways(
                number(powers, SubjectKind.ACCOUNT, "di"),
                reset,
                powers.thing(ann),
                Optional.empty()))
        .singleElement()
        .satisfies(way -> assertThat(way.chain()).hasSize(2));
    assertThat(powers.roles().scopesOf(number(powers, SubjectKind.ACCOUNT, "di")))
        .containsExactly(0);
  }

  @ParameterizedTest
  @CsvSource({
    "'desk,account,di,vault,,,', OTHER_SCOPE",
    "'whole,account,di,everything,,,', OTHER_ACTION",
    "'desk,account,di,glass,,2026-01-01,', NOT_NOW",
    "'desk,account,di,glass,,,no', NOT_NOW",
    "'desk,account,bo,glass,,,', NO_ROLE"
  })
  void whatNoAdminRoleGivesSaysHowNearItIs(String row, AdminModel.Nearness nearness) {
    Powers powers = powers(TWO, row);
    assertThat(can(powers, "di", "set-password", "ann")).isEqualTo(Verdict.UNDECIDED);
    AdminModel.Miss miss =
        powers
            .roles()
            .miss(
                number(powers, SubjectKind.ACCOUNT, "di"),
                "set-password",
                number(powers, SubjectKind.ACCOUNT, "ann"));
    assertThat(miss.nearness()).isEqualTo(nearness);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "whole,account,di,glass,,, | the admin role whole may not be limited to a scope, and is"
            + " given over Glass",
        "desk,account,ann,glass,,, | ann is in the scope Glass over which she is set as Desk",
        "desk,group,nobody,glass,,, | the admin role Desk is given to nobody, and nobody is in it"
      })
  void whatCannotBeMeantIsTold(String row, String what) {
    assertThat(new AdminCheck(powers(TWO, row)).run())
        .singleElement()
        .satisfies(
            problem -> {
              assertThat(problem.what()).isEqualTo(what);
              assertThat(problem.place().toString()).isEqualTo("admin.csv:2");
            });
  }

  @Test
  void emptyScopesRulesWithoutAnybodyAndWidenedScopesAreTold() {
    Powers powers =
        powers(
            "scopes:\n  none: {name: None, include: [{where: \"(title=Pilot)\"}]}\n"
                + "  crew: {name: Crew, include: [{group: crew, groups: both}]}\n",
            "desk,account,cy,crew,,,",
            "editor,account,cy,everything,,,");
    assertThat(new AdminCheck(powers).run().stream().map(p -> p.what()).toList())
        .containsExactly(
            "the rule fits nobody",
            "nobody is in the scope None",
            "cy can widen the scope Crew, over which she is set, by editing crew, whose members are"
                + " in it",
            "cy can widen the scope Crew, over which she is set, by editing inner, whose members"
                + " are in it");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "desk,account,di,nowhere,,, | there is no admin scope \"nowhere\"",
        "dask,account,di,glass,,,   | there is no admin role \"dask\"",
        "desk,person,di,glass,,,    | \"person\" is no kind of object",
        "desk,account,di,glass,soon,, | from: \"soon\" is no date"
      })
  void wrongAssignmentsAreToldWithTheirLine(String row, String what) {
    assertThatThrownBy(() -> powers(TWO, row))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining("admin.csv:2")
        .hasMessageContaining(what);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "''                                                | ''     | TRUE",
        "'console: {directories: [elsewhere]}'             | ''     | FALSE",
        "'console: {directories: [main], hosts: [desk-1]}' | desk-1 | TRUE",
        "'console: {directories: [main], hosts: [desk-1]}' | desk-2 | FALSE"
      })
  void anActIsDoneAsTheRightIdentityFromTheRightPlace(String console, String from, Truth ready) {
    Powers powers = powers(TWO + console + "\n", "desk,account,di,glass,,,");
    AdminAction reset = powers.roles().administration().action("set-password").orElseThrow();
    Truth all = Truth.TRUE;
    for (var step :
        new ActReadiness(powers, Optional.of(from).filter(h -> !h.isEmpty()))
            .steps(
                number(powers, SubjectKind.ACCOUNT, "di"),
                reset,
                powers.thing(number(powers, SubjectKind.ACCOUNT, "ann")),
                Optional.empty())) {
      all = all.and(step.met());
    }
    assertThat(all).isEqualTo(ready);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "Bad: {needs: {write: member}}        | \"Bad\" is no id of an action",
        "a: {name: nothing}                   | the action needs nothing",
        "a: {needs: {do: fly}}                | \"fly\" is nothing to do",
        "a: {needs: {any: []}}                | there is nothing in the list",
        "a: {needs: {write: a, read: b}}      | this is no single right",
        "a: {needs: {writ: member}}           | there is no setting \"writ\"",
        "a: {weight: 7, needs: confidential}  | weight: \"7\" is no weight"
      })
  void wrongActionsAreToldWithTheirPlace(String action, String what) {
    assertThatThrownBy(() -> powers(TWO + "actions: {" + action + "}\n"))
        .isInstanceOf(BadInputException.class)
        .hasMessageContaining(what);
  }

  @Test
  void aRoleOfAGroupThatWasNotReadMayBeAnybodys() {
    Powers powers =
        powers(
            "scopes: {s: {include: [{account: bo}]}}\n",
            "desk,group,elsewhere,s,,,",
            "desk,account,gone,everything,,,");
    int ann = number(powers, SubjectKind.ACCOUNT, "ann");
    int bo = number(powers, SubjectKind.ACCOUNT, "bo");
    SystemView view = powers.model().delegated().get(0);
    Question onBo = Question.of(bo, view.rights().find("set-password").orElseThrow());
    Question onAnn = Question.of(ann, onBo.allOf()[0]);
    Asker asker = powers.model().asker();
    assertThat(asker.decide(view, ann, onBo)).isEqualTo(Verdict.UNDECIDED);
    assertThat(asker.decide(view, ann, onAnn)).isEqualTo(Verdict.NO);
    Holders holders = new Holders(asker);
    assertThat(holders.crowd(view, onBo).orElseThrow().perhaps().cardinality())
        .isEqualTo(powers.model().facts().accounts());
    assertThat(holders.crowd(view, onAnn).orElseThrow().perhaps().cardinality()).isZero();
  }
}
