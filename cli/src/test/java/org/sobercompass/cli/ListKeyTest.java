package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Holders;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.system.Layer;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.workspace.Workspace;

/** The files and the database of the demo give what ANSWERS.md says. */
class ListKeyTest {
  @TempDir static Path demo;
  private static Workspace workspace;

  @BeforeAll
  static void readTheDemo() {
    DemoFiles.write(demo);
    workspace = Workspace.open(demo);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "wmarsh | fieldshare:change | /glasshouses/2026/ferns.txt | YES |",
        "nlarkin | fieldshare:change | /glasshouses/2026/ferns.txt | YES |",
        "nlarkin | fieldshare:write-data | /glasshouses/2026/drafts/propagation.txt | NO | the list"
            + " of the file",
        "nlarkin | fieldshare:delete | /glasshouses/2026/drafts/propagation.txt | YES |",
        "gwick | fieldshare:change | /glasshouses/2024/alpines.txt | YES |",
        "gwick | fieldshare:change | /glasshouses/2025/alpines.txt | NO | deleting it",
        "ibeck | fieldshare:change | /herbarium/sheets/carex.txt | YES |",
        "ibeck | fieldshare:change | /herbarium/loans/2026.csv | NO | deleting it",
        "ibeck | fieldshare:change-permissions | /herbarium/sheets | NO | the list of share"
            + " herbarium",
        "bostler | fieldshare:change | /vault/germination/2026.csv | NO | the list of share vault",
        "bostler | fieldshare:read | /vault/germination/2026.csv | YES |",
        "gwick | fieldshare:read-data | /vault/germination/2026.csv | NO | the list of the file",
        "mholt | fieldshare:full | /office/finance/grants.csv | YES |",
        "jmerrin | fieldshare:change | /office/finance/grants.csv | YES |",
        "gwick | fieldshare:delete | /office/drop/keys.txt | YES |",
        "gwick | fieldshare:read-data | /office/drop/keys.txt | NO | the list of the file",
        "mholt | fieldshare:read | / | NO | a share that leads here",
        "dsorrel | fernstore:read | /srv/fernhollow/treasury/fees.csv | YES |",
        "rholm | fernstore:write | /srv/fernhollow/treasury/old.csv | NO | search in"
            + " /srv/fernhollow/treasury",
        "hpine | fernstore:write | /srv/fernhollow/minutes/2026-autumn.txt | YES |",
        "hpine | fernstore:create | /srv/fernhollow/minutes | NO | the list of the folder",
        "hpine | fernstore:delete | /srv/fernhollow/exchange/seeds.txt | NO | owning it or its"
            + " sticky folder",
        "emoor | fernstore:delete | /srv/fernhollow/exchange/seeds.txt | YES |",
        "emoor | fernstore:read | /srv/fernhollow/minutes/2026-autumn.txt | NO | the list of the"
            + " file",
        "ofell | fernstore:write | /srv/fernhollow/photos | YES |",
        "nils.farrow | fieldbook:select | /fieldbook/obs/species | YES |",
        "nils.farrow | fieldbook:select | /fieldbook/obs/sightings | NO | select on the table",
        "nils.farrow | fieldbook:select | /fieldbook/obs/sightings/place | YES |",
        "nils.farrow | fieldbook:select | /fieldbook/obs/sightings/private_notes | NO | select on"
            + " the column",
        "nils.farrow | fieldbook:select | /fieldbook/loans/loan | NO | usage of schema"
            + " /fieldbook/loans",
        "tova.quill | fieldbook:delete | /fieldbook/obs/sightings | YES |",
        "tova.quill | fieldbook:grant-delete | /fieldbook/obs/sightings | YES |",
        "lio.harrow | fieldbook:select | /fieldbook/obs/species | NO | usage of schema"
            + " /fieldbook/obs",
        "loader | fieldbook:insert | /fieldbook/staging/incoming | YES |",
        "wren.calloway | fieldbook:insert | /fieldbook/staging/incoming | NO | usage of schema"
            + " /fieldbook/staging",
        "maren.holt | fieldbook:own | /fieldbook/obs/sightings | YES |",
        "maren.holt | fieldbook:insert | /fieldbook/staging/incoming | YES |"
      })
  void eachAnswerOfTheKeyIsGivenWithTheLayerThatLimits(
      String login, String permission, String path, Verdict verdict, String limit) {
    String system = permission.substring(0, permission.indexOf(':'));
    SystemView view = workspace.model().system(system).orElseThrow();
    int account = NameResolver.find(workspace.facts(), SubjectKind.ACCOUNT, login).get(0);
    Question question =
        Question.of(
            view.resources().find(path).orElseThrow(),
            view.rights().find(permission.substring(system.length() + 1)).orElseThrow());
    Asker asker = workspace.model().asker();
    assertThat(asker.decide(view, account, question)).isEqualTo(verdict);
    List<Layer> layers = view.decider().layers(asker.token(view, account), question);
    Optional<String> first =
        layers.stream().filter(l -> l.verdict() != Verdict.YES).map(Layer::name).findFirst();
    assertThat(first).isEqualTo(Optional.ofNullable(limit));
  }

  @Test
  void everybodyAtOnceIsTheSameAsOneAfterAnother() {
    Asker asker = workspace.model().asker();
    for (String id : List.of("fieldshare", "fernstore", "fieldbook")) {
      SystemView view = workspace.model().system(id).orElseThrow();
      for (int r = 0; r < view.resources().size(); r++) {
        for (int right = 0; right < view.rights().size(); right++) {
          List<Integer> all =
              new Holders(asker)
                  .find(view, right, r, false).stream().map(Holders.Holder::account).toList();
          for (int a = 0; a < workspace.facts().accounts(); a++) {
            Verdict one = asker.decide(view, a, Question.of(r, right));
            assertThat(all.contains(a))
                .as("%s %s %s", view.resources().id(r), view.rights().text(right), a)
                .isEqualTo(one != Verdict.NO);
          }
        }
      }
    }
  }

  /** Where taking entries out is the advice, carrying it out on the model ends the finding. */
  @Test
  void theAdviceCarriedOutEndsTheFinding() {
    List<Finding> found = Findings.of(workspace.model(), List.of());
    int ended = 0;
    for (Finding finding : found) {
      boolean listed = List.of("fieldshare", "fernstore", "fieldbook").contains(finding.system());
      if (listed && !finding.changes().isEmpty()) {
        List<Finding> left = Findings.of(workspace.model().with(finding.changes()), List.of());
        assertThat(left).extracting(Finding::key).doesNotContain(finding.key());
        ended++;
      }
    }
    assertThat(ended).isEqualTo(14);
  }
}
