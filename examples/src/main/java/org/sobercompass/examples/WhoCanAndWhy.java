package org.sobercompass.examples;

import java.nio.file.Path;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Holders;
import org.sobercompass.core.access.RouteFinder;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.system.Limits;
import org.sobercompass.sources.workspace.Workspace;

/**
 * Who holds a permission, and the shortest route of each: {@code WhoCanAndWhy DIR APP PERMISSION}.
 */
public final class WhoCanAndWhy {
  private WhoCanAndWhy() {}

  public static void main(String[] args) {
    AccessModel model = Workspace.open(Path.of(args[0])).model();
    SystemView app = model.system(args[1]).orElseThrow();
    int right = app.rights().find(args[2]).orElseThrow();
    Asker asker = model.asker();
    RouteFinder routes = new RouteFinder(asker, Limits.ONE);
    for (Holders.Holder holder : new Holders(asker).find(app, right, 0, true)) {
      var found = routes.find(app, holder.account(), right, holder.resource());
      found.open().forEach(route -> System.out.println(Words.route(model, app, route)));
    }
  }
}
