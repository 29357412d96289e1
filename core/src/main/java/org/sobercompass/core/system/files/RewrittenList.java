package org.sobercompass.core.system.files;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.descriptor.Descriptor;

/**
 * A list that a proposal changes, whole: as it was and as it is to be.
 *
 * @param resource the number of the path, or of the folder that the share opens
 * @param share the name of the share whose own list it is; empty for the list of a path
 * @param was what was read
 * @param is what it is to be
 */
public record RewrittenList(int resource, String share, Descriptor was, Descriptor is) {

  /**
   * The lists that are otherwise in a preview: of paths with what they get from above, folders
   * before what is in them, then of shares. O(paths).
   *
   * @param was the lists as read
   * @param is the same, with the changes of the preview
   */
  public static List<RewrittenList> between(FileFacts was, FileFacts is) {
    List<RewrittenList> all = new ArrayList<>();
    Map<Long, RewrittenList> known = new HashMap<>();
    for (int r = 0; r < was.tree.size(); r++) {
      long pair = (long) was.listOf[r] << 32 | is.listOf[r];
      if (was.listOf[r] >= 0 && was.list(r).get() != is.list(r).orElseThrow()) {
        int resource = r;
        RewrittenList one =
            known.computeIfAbsent(
                pair, p -> of(resource, "", was.list(resource).get(), is.list(resource).get()));
        all.add(new RewrittenList(r, "", one.was, one.is));
      }
    }
    for (int s = 0; s < was.shares.size(); s++) {
      FileFacts.Share share = was.shares.get(s);
      int now = is.shares.get(s).list();
      if (share.list() >= 0 && share.list() != now) {
        all.add(of(share.resource(), share.name(), was.lists[share.list()], is.lists[now]));
      }
    }
    all.removeIf(one -> one.was.equals(one.is));
    return all;
  }

  private static RewrittenList of(int resource, String share, FileList was, FileList is) {
    return new RewrittenList(
        resource, share, ((OrderedList) was).left(), ((OrderedList) is).left());
  }
}
