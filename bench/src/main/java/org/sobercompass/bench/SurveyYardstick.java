package org.sobercompass.bench;

import com.unboundid.asn1.ASN1OctetString;
import com.unboundid.ldap.sdk.Control;
import com.unboundid.ldap.sdk.LDAPConnection;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.SearchRequest;
import com.unboundid.ldap.sdk.SearchResult;
import com.unboundid.ldap.sdk.SearchScope;
import com.unboundid.ldap.sdk.controls.SimplePagedResultsControl;
import com.unboundid.ldif.LDIFException;
import com.unboundid.ldif.LDIFReader;
import java.io.IOException;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import org.sobercompass.sources.Secret;
import org.sobercompass.sources.disk.OwnFiles;
import org.sobercompass.sources.live.AccessSettings;
import org.sobercompass.sources.live.Collected;
import org.sobercompass.sources.live.Collector;
import org.sobercompass.sources.live.LdapAccess;
import org.sobercompass.sources.survey.SurveyFile;
import org.sobercompass.sources.workspace.Surveyor;

/**
 * Measures surveys: {@code SurveyYardstick workspace DIR} writes one of a generated workspace and
 * reads it back, beside the LDIF library's bare parsing; {@code SurveyYardstick live ADDRESS BINDDN
 * BASE} (password in PASSWORD) collects a live directory beside the same library's bare paged
 * search.
 */
public final class SurveyYardstick {
  private static final int TRIES = 5;

  private SurveyYardstick() {}

  /** Runs one of the two. */
  public static void main(String[] args) throws Exception {
    if (args[0].equals("workspace")) {
      workspace(Path.of(args[1]));
    } else {
      live(args[1], args[2], args[3]);
    }
  }

  private static void workspace(Path root) throws Exception {
    Path ldif = root.resolve("directory.ldif");
    double megabytes = Files.size(ldif) / 1e6;
    Path target = Files.createTempFile("yardstick", ".survey.zip");
    Surveyor surveyor =
        new Surveyor(Secret.Origins.PROCESS, Clock.systemUTC(), (source, count) -> {});
    best("library's bare parsing, one parse thread", megabytes, () -> bare(ldif));
    best(
        "survey written",
        megabytes,
        () -> surveyor.take(root, List.of(), Optional.of(target)).parts().size());
    best(
        "survey unpacked and checked",
        megabytes,
        () -> {
          Path folder = Files.createTempDirectory("yardstick");
          try {
            return SurveyFile.unpack(target, folder).manifest().files().size();
          } finally {
            OwnFiles.discard(folder);
          }
        });
    Files.delete(target);
  }

  private static int bare(Path ldif) throws IOException, LDIFException {
    try (LDIFReader reader = new LDIFReader(Files.newInputStream(ldif), 1)) {
      int count = 0;
      while (reader.readLDIFRecord() != null) {
        count++;
      }
      return count;
    }
  }

  private static void live(String address, String bind, String base) throws Exception {
    LdapAccess access =
        AccessSettings.of("main", URI.create(address), true)
            .with(
                Optional.empty(),
                Optional.of(bind),
                Optional.of(new Secret.Environment("PASSWORD")),
                List.of(base),
                LdapAccess.PAGE,
                LdapAccess.PATIENCE);
    String password = access.password().orElseThrow().read(Secret.Origins.PROCESS);
    Path out = Files.createTempFile("yardstick", ".ldif");
    int[] entries = new int[1];
    for (int round = 0; round < 2; round++) {
      best(
          "library's bare paged search, all attributes",
          0,
          () -> entries[0] = paged(access, bind, password, base));
      best(
          "collected into LDIF",
          0,
          () -> {
            Collected read =
                new Collector(access, Secret.Origins.PROCESS, Clock.systemUTC(), count -> {})
                    .into(out);
            return read.entries();
          });
    }
    System.out.println(entries[0] + " entries, " + (Files.size(out) >> 20) + " MiB of LDIF");
    Files.delete(out);
  }

  private static int paged(LdapAccess access, String bind, String password, String base)
      throws LDAPException {
    try (LDAPConnection connection =
        new LDAPConnection(access.host(), access.port(), bind, password)) {
      SearchRequest request = new SearchRequest(base, SearchScope.SUB, "(objectClass=*)", "*", "+");
      int count = 0;
      ASN1OctetString cookie = null;
      do {
        request.setControls(
            new Control[] {new SimplePagedResultsControl(access.page(), cookie, true)});
        SearchResult result = connection.search(request);
        count += result.getEntryCount();
        SimplePagedResultsControl answer = SimplePagedResultsControl.get(result);
        cookie = answer != null && answer.moreResultsToReturn() ? answer.getCookie() : null;
      } while (cookie != null);
      return count;
    }
  }

  private static void best(String what, double megabytes, Callable<Integer> work) throws Exception {
    double best = Double.MAX_VALUE;
    int result = 0;
    for (int i = 0; i < TRIES; i++) {
      long begin = System.nanoTime();
      result = work.call();
      best = Math.min(best, (System.nanoTime() - begin) / 1e9);
    }
    System.out.printf(
        Locale.ROOT,
        "%-48s best %7.3f s%s   (%d)%n",
        what,
        best,
        megabytes > 0 ? String.format(Locale.ROOT, ", %.0f MB/s", megabytes / best) : "",
        result);
  }
}
