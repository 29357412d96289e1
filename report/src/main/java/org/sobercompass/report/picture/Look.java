package org.sobercompass.report.picture;

/**
 * How pictures look: the colours of light and of dark, in a page and in a file of its own. The
 * colours differ in lightness, so that they stay apart for the colour-blind and in print.
 */
public final class Look {
  private Look() {}

  /** The colours by name; the second line is for dark windows. */
  private static final String LIGHT =
      "--ink: #22302c; --quiet: #56655f; --line: #cfd8d3; --paper: #fbfcfa; --band: #eef3ef;"
          + " --box: #ffffff; --mark: #1f6a50; --high: #a3282b; --medium: #805300; --low: #4b5b66;";

  private static final String DARK =
      "--ink: #e4ebe7; --quiet: #a4b3ac; --line: #3d4944; --paper: #161c19; --band: #212a26;"
          + " --box: #1c2420; --mark: #7ccfac; --high: #ff9a94; --medium: #e8b866; --low: #a9bac6;";

  private static final String SHAPES =
      """
      .drawing { max-width: none; background: var(--paper); }
      .drawing text { font: 13px system-ui, "DejaVu Sans", sans-serif; text-anchor: middle; fill: var(--ink); }
      .drawing text.small { font-size: 10px; fill: var(--quiet); }
      .drawing text.left { text-anchor: start; } .drawing text.right { text-anchor: end; }
      .drawing text.quiet { fill: var(--quiet); font-size: 12px; } .drawing text.strong { font-weight: 600; }
      .drawing text.mark { fill: var(--mark); } .drawing text.high { fill: var(--high); font-weight: 600; }
      .drawing text.stop { fill: var(--high); }
      .drawing rect { fill: var(--box); stroke: var(--quiet); }
      .drawing rect.account { stroke: var(--ink); stroke-width: 1.5; }
      .drawing rect.role { fill: var(--band); }
      .drawing rect.permission { stroke: var(--mark); stroke-width: 2; }
      .drawing rect.stopper { stroke: var(--high); stroke-dasharray: 4 3; }
      .drawing rect.band { fill: var(--band); stroke: none; }
      .drawing rect.plain { fill: none; stroke: var(--line); }
      .drawing rect.highbar { fill: var(--high); stroke: none; } .drawing rect.mediumbar { fill: var(--medium); stroke: none; }
      .drawing rect.lowbar { fill: var(--low); stroke: none; } .drawing rect.markbar { fill: var(--mark); stroke: none; }
      .drawing .line { fill: none; stroke: var(--quiet); } .drawing .head { fill: var(--quiet); stroke: none; }
      .drawing .stopped { fill: none; stroke: var(--high); stroke-dasharray: 5 4; }
      .drawing .rule { fill: none; stroke: var(--line); }
      .drawing .course { fill: none; stroke: var(--mark); stroke-width: 2; }
      """;

  /** The style of a page: its colours and the shapes of the pictures in it. */
  public static String ofPage() {
    return ":root { color-scheme: light dark; "
        + LIGHT
        + " }\n@media screen and (prefers-color-scheme: dark) { :root { "
        + DARK
        + " } }\n"
        + SHAPES;
  }

  /** A picture as a file of its own: XML that carries its own style. */
  public static String alone(String svg) {
    int body = svg.indexOf('>') + 1;
    return "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n"
        + svg.substring(0, body)
        + "<style>.drawing { "
        + LIGHT
        + " }\n@media screen and (prefers-color-scheme: dark) { .drawing { "
        + DARK
        + " } }\n"
        + SHAPES
        + "</style>"
        + svg.substring(body)
        + "\n";
  }
}
