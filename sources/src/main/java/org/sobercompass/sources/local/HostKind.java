package org.sobercompass.sources.local;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Set;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.SourceKind;

/** Users and groups of one host: lines of passwd, group and shadow, as {@code getent} gives. */
public final class HostKind implements SourceKind {
  @Override
  public String id() {
    return "host";
  }

  @Override
  public boolean isLocal() {
    return true;
  }

  @Override
  public void read(Entries entries, FactsSource into, Problems problems) {
    new HostSource(entries.shown(), into, problems).read(entries.path());
  }

  /** The field of the password keeps no more than whether there is one. */
  @Override
  public void withoutSecrets(InputStream in, OutputStream to) throws IOException {
    BufferedReader lines =
        new BufferedReader(new InputStreamReader(in, StandardCharsets.ISO_8859_1));
    for (String line = lines.readLine(); line != null; line = lines.readLine()) {
      String[] fields = line.split(":", -1);
      if (fields.length > 1 && !Set.of("", "!", "!!", "*", "x").contains(fields[1])) {
        fields[1] = fields[1].startsWith("!") ? "!" : "x";
      }
      to.write((String.join(":", fields) + "\n").getBytes(StandardCharsets.ISO_8859_1));
    }
  }
}
