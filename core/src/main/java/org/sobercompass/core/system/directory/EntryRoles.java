package org.sobercompass.core.system.directory;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.EntryWords;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.system.RoleInfo;

/**
 * What entries say, each once, as roles: worked out when it is first asked for. Which admin actions
 * an entry makes possible depends on the object; a role says only whether it gives or takes away.
 * Thread-safe.
 */
final class EntryRoles {
  /** The role of whoever owns an object. */
  static final int OWNER = 0;

  /** The role of everybody where there is no list. */
  static final int NO_LIST = 1;

  private final DirectoryTree tree;
  private final EntryWords words;
  private final int rightWords;
  private final List<RoleInfo> roles = new ArrayList<>();
  private final Map<String, Integer> known = new HashMap<>();

  EntryRoles(DirectoryTree tree, int rightWords) {
    this.tree = tree;
    this.words = new EntryWords(tree.names());
    this.rightWords = rightWords;
  }

  /** All of them. O(entries of distinct lists) the first time. */
  synchronized List<RoleInfo> all() {
    if (roles.isEmpty()) {
      add("the owner", true);
      add("no list", true);
      for (int d = 0; d < tree.descriptors(); d++) {
        for (Ace ace : tree.descriptorOf(d).entries()) {
          add(words.of(ace), ace.allows());
        }
      }
    }
    return roles;
  }

  private void add(String id, boolean allows) {
    if (known.putIfAbsent(id, roles.size()) == null) {
      long[] all = new long[rightWords];
      Arrays.fill(all, -1L);
      long[] none = new long[rightWords];
      roles.add(new RoleInfo(id, id, allows ? all : none, allows ? none : all, List.of(), ""));
    }
  }

  /** The role of an entry. */
  synchronized int of(Ace ace) {
    all();
    return known.getOrDefault(words.of(ace), OWNER);
  }
}
