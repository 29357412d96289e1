package org.sobercompass.sources.files;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.sobercompass.sources.Collecting;

/** Lists, owners and modes of a tree of files on this host. */
public final class FilesCollecting implements Collecting {
  @Override
  public String id() {
    return "files";
  }

  @Override
  public List<String> collect(Request request) {
    Path folder = Path.of(request.where());
    if (!Files.isDirectory(folder)) {
      throw new Mistyped(request.where() + " is no folder; expected one on this host");
    }
    LiveTree.Collected collected = LiveTree.collect(folder, request.target(), LiveTree.tool());
    List<String> told = new ArrayList<>();
    told.add(
        "Collected "
            + collected.paths()
            + " paths into "
            + request.target()
            + "; "
            + collected.links()
            + " symbolic links not followed, "
            + collected.unread()
            + " paths whose list could not be read.");
    if (!collected.lists()) {
      told.add(
          "There is no getfacl on this host, so only modes were read; what a list behind them"
              + " could change stays undecided.");
    }
    return told;
  }
}
