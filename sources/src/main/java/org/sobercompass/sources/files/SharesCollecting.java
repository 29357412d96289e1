package org.sobercompass.sources.files;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.Sddl;
import org.sobercompass.sources.Collecting;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.disk.Ending;
import org.sobercompass.sources.disk.OwnFiles;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** Lists of folders and files behind a share, over SMB. */
public final class SharesCollecting implements Collecting {
  private static final JsonMapper JSON = JsonMapper.shared();

  @Override
  public String id() {
    return "share";
  }

  @Override
  public List<String> collect(Request request) {
    if (!request.target().toString().endsWith(".jsonl")) {
      throw new Mistyped(
          request.target() + ": a share is collected as JSON lines; expected a name in .jsonl");
    }
    try (ShareDoor door =
        ShareDoor.open(
            request.where(),
            request.as(),
            request.secret(),
            request.plain(),
            Secret.Origins.PROCESS)) {
      Walk walk = new Walk(door);
      OwnFiles.write(request.target(), walk::write);
      return List.of(
          "Collected "
              + walk.paths
              + " paths of "
              + door.reached()
              + ", as "
              + door.identity()
              + ", into "
              + request.target()
              + "; "
              + walk.links
              + " links not followed, "
              + walk.unread
              + " paths whose list or contents could not be read.",
          "The list of the share itself is not in it: it stands where the share is set up.");
    }
  }

  /** Folders before what is in them. Not thread-safe. */
  private static final class Walk {
    private final ShareDoor door;
    private int paths;
    private int links;
    private int unread;

    Walk(ShareDoor door) {
      this.door = door;
    }

    void write(OutputStream to) throws IOException {
      Ending out = new Ending(to);
      out.write((JsonRows.COLLECTED + "\n").getBytes(StandardCharsets.UTF_8));
      line(out, "/", true);
      Deque<String> open = new ArrayDeque<>(List.of("/"));
      while (!open.isEmpty()) {
        String folder = open.pop();
        for (ShareDoor.Item item : items(folder)) {
          String path = (folder.equals("/") ? "" : folder) + "/" + item.name();
          line(out, path, item.isFolder());
          links += item.isLink() ? 1 : 0;
          if (item.isFolder() && !item.isLink()) {
            open.push(path);
          }
        }
      }
      out.end(Ending.Form.JSON);
    }

    private List<ShareDoor.Item> items(String folder) {
      try {
        return door.list(folder);
      } catch (ShareDoor.Refused e) {
        unread++;
        return List.of();
      }
    }

    private void line(OutputStream out, String path, boolean isFolder) throws IOException {
      ObjectNode line = JSON.createObjectNode();
      line.put("path", path).put("kind", isFolder ? "folder" : "file");
      line.put("list", list(path).map(Sddl::text).orElse(""));
      out.write((JSON.writeValueAsString(line) + "\n").getBytes(StandardCharsets.UTF_8));
      paths++;
    }

    private Optional<Descriptor> list(String path) {
      try {
        Optional<Descriptor> list = door.read(path);
        unread += list.isEmpty() ? 1 : 0;
        return list;
      } catch (ShareDoor.Refused e) {
        unread++;
        return Optional.empty();
      }
    }
  }
}
