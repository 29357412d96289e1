package org.sobercompass.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.stream.IntStream;
import org.sobercompass.core.access.RouteFinder;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.admin.Asked;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Question;
import org.sobercompass.report.page.Drawings;
import org.sobercompass.report.picture.LayerDrawing;
import org.sobercompass.report.picture.Look;
import org.sobercompass.report.picture.RouteDrawing;
import org.sobercompass.report.picture.TimeDrawing;
import org.sobercompass.sources.disk.OwnFiles;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

/** {@code sober draw}. */
@Command(
    name = "draw",
    mixinStandardHelpOptions = true,
    description = {"Draws one answer as a picture in a file of its own (SVG).", ""},
    footer = {
      "",
      "Examples, on the demo:",
      "  sober draw routes.svg routes joss.merrin orders:orders:raise",
      "  sober draw all.svg routes ilse.brandt",
      "  sober draw layers.svg layers fieldshare:change /vault/germination bostler tquill",
      "  sober draw orders.svg matrix orders",
      "  sober draw areas.svg matrix seedbook areas",
      "  sober draw vault.svg tree fieldshare /vault",
      "  sober draw units.svg tree Trust",
      "  sober draw desks.svg reach desks",
      "  sober draw peers.svg peers sven.hollis rounds",
      "  sober draw time.svg timeline"
    })
final class DrawCommand implements Callable<Integer> {
  private static final String EXPECTED =
      "expected routes ACCOUNT [PERMISSION [NODE]], layers PERMISSION NODE ACCOUNT..., matrix"
          + " APPLICATION [roles|areas|groups], tree APPLICATION [NODE], tree UNIT, reach POWER,"
          + " peers ACCOUNT APPLICATION, or timeline";

  @Mixin private Inputs inputs = new Inputs();

  @Parameters(index = "0", paramLabel = "FILE", description = "the picture to write")
  private Path file = Path.of("picture.svg");

  @Parameters(
      index = "1..*",
      arity = "1..*",
      paramLabel = "KIND NAME",
      description =
          "routes ACCOUNT [PERMISSION [NODE]], layers PERMISSION NODE ACCOUNT..., matrix"
              + " APPLICATION [roles|areas|groups], tree APPLICATION [NODE], tree UNIT, reach"
              + " POWER, peers ACCOUNT APPLICATION, timeline")
  private List<String> what = new ArrayList<>();

  @Override
  public Integer call() {
    List<String> names = what.subList(1, what.size());
    String svg = draw(what.get(0), names);
    if (svg.isEmpty()) {
      inputs.out().println("There is nothing to draw: nobody holds or could reach it.");
      return Exit.NO;
    }
    OwnFiles.write(file, Look.alone(svg));
    inputs.out().println("Written: " + file + ", a picture of " + String.join(" ", what) + ".");
    return Exit.OK;
  }

  private String draw(String kind, List<String> names) {
    int count = names.size();
    if (kind.equals("routes") && count >= 1 && count <= 3) {
      return routes(names);
    } else if (kind.equals("layers") && count >= 3) {
      return layers(names);
    } else if (kind.equals("matrix") && (count == 1 || count == 2)) {
      return matrix(inputs.names().application(names.get(0)), count == 1 ? "roles" : names.get(1));
    } else if (kind.equals("tree") && (count == 1 || count == 2)) {
      return tree(names);
    } else if (kind.equals("reach") && count == 1) {
      return new Administering(inputs, null).reach().drawing(names.get(0));
    } else if (kind.equals("peers") && count == 2) {
      SystemView view = inputs.names().application(names.get(1));
      return drawings().peers(inputs.names().account(names.get(0)), view);
    } else if (kind.equals("timeline") && count == 0) {
      Map<String, org.sobercompass.core.comparison.Reading> readings =
          new SurveyComparison(inputs, List.of(), false).readings();
      return TimeDrawing.draw(readings, inputs.workspace().zone());
    }
    throw new UsageException("cannot draw " + String.join(" ", what) + "\n" + EXPECTED);
  }

  private String matrix(SystemView view, String by) {
    return switch (by) {
      case "roles" -> drawings().matrix(view, accounts());
      case "areas" -> drawings().levels(view, accounts());
      case "groups" -> drawings().groups(view);
      default -> throw new UsageException("matrix by " + by + "; expected roles, areas or groups");
    };
  }

  private Drawings drawings() {
    return new Drawings(inputs.model(), inputs.assessment(), inputs.organization().triage().open());
  }

  private List<Integer> accounts() {
    return IntStream.range(0, inputs.model().facts().accounts()).boxed().toList();
  }

  private String routes(List<String> names) {
    int account = inputs.names().account(names.get(0));
    if (names.size() == 1) {
      return drawings().routes(account).draw();
    }
    Asked.Use use =
        inputs
            .names()
            .at(inputs.names().permission(names.get(1)), names.size() > 2 ? names.get(2) : "");
    return new RouteDrawing(inputs.model())
        .add(
            use.view(),
            new RouteFinder(inputs.model().asker(), Limits.USUAL)
                .find(use.view(), account, use.right(), use.question().resource()))
        .draw();
  }

  private String layers(List<String> names) {
    Asked.Use use = inputs.names().permission(names.get(0));
    int node = inputs.names().node(use.view(), names.get(1));
    List<Integer> accounts =
        names.subList(2, names.size()).stream().map(inputs.names()::account).toList();
    return LayerDrawing.draw(
        inputs.model().facts(),
        use.view(),
        Words.permission(use.view(), use.right()),
        LayerDrawing.columns(
            inputs.model().asker(), use.view(), Question.of(node, use.right()), accounts));
  }

  private String tree(List<String> names) {
    boolean unit = names.size() == 1 && inputs.model().system(names.get(0)).isEmpty();
    if (unit) {
      Administering all = new Administering(inputs, null);
      return Drawings.units(all.delegations(), inputs.names().acts().spot(names.get(0)));
    }
    SystemView view = inputs.names().application(names.get(0));
    int node = names.size() == 1 ? 0 : inputs.names().node(view, names.get(1));
    return Drawings.places(view, node).svg();
  }
}
