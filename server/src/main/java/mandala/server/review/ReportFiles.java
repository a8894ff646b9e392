package mandala.server.review;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import mandala.server.platform.ExportTable;
import mandala.server.platform.PdfPage;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;

/** Writes the report of a round as files: all of it as JSON and as a workbook, and on paper. */
final class ReportFiles {

  /** Items on paper; the workbook has all. */
  private static final int ON_PAPER = 2_000;

  private static final JsonMapper JSON =
      JsonMapper.builder()
          .changeDefaultPropertyInclusion(it -> it.withValueInclusion(JsonInclude.Include.NON_NULL))
          .build();

  private static final DateTimeFormatter MOMENT =
      DateTimeFormatter.ofPattern("d MMM uuuu, HH:mm 'UTC'", Locale.ENGLISH)
          .withZone(ZoneOffset.UTC);

  private ReportFiles() {}

  /** The forms of a report. */
  enum Form {
    JSON("application/json"),
    XLSX(ExportTable.SHEET),
    PDF(PdfPage.TYPE);

    private final String type;

    Form(String type) {
      this.type = type;
    }

    String type() {
      return type;
    }

    String word() {
      return name().toLowerCase(Locale.ROOT);
    }
  }

  static byte[] write(RoundReport report, Form form) {
    return switch (form) {
      case JSON -> JSON.writerWithDefaultPrettyPrinter().writeValueAsBytes(report);
      case XLSX -> sheet(report);
      case PDF -> paper(report);
    };
  }

  static RoundReport read(byte[] json) {
    return JSON.readValue(json, RoundReport.class);
  }

  private static String text(@Nullable Object it) {
    return it instanceof Instant at ? MOMENT.format(at) : Objects.toString(it, "");
  }

  private static String percent(@Nullable Double share) {
    return share == null ? "" : Math.round(100 * share) + " %";
  }

  // ---- workbook ---------------------------------------------------------------------------------

  private static byte[] sheet(RoundReport report) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try (Workbook book = new Workbook(out, "Mandala", "1.0")) {
      Worksheet summary = book.newWorksheet("Review");
      int row = 0;
      for (Map.Entry<String, String> it : facts(report).entrySet()) {
        put(summary, row++, it.getKey(), it.getValue());
      }
      Worksheet reviewers = book.newWorksheet("Reviewers");
      row = 0;
      put(
          reviewers,
          row++,
          "reviewer",
          "items",
          "kept",
          "reduced",
          "removed",
          "share kept",
          "seconds between two",
          "known wrong items",
          "of these kept");
      for (RoundReport.ReportedReviewer it : report.reviewers()) {
        put(
            reviewers,
            row++,
            it.name(),
            it.items(),
            it.kept(),
            it.reduced(),
            it.removed(),
            percent(it.keeps()),
            it.pace(),
            it.controls(),
            it.controlsKept());
      }
      items(book.newWorksheet("Items"), report.items());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return out.toByteArray();
  }

  private static void items(Worksheet sheet, List<RoundReport.ReportedItem> items) {
    int row = 0;
    put(
        sheet,
        row++,
        "item",
        "whose",
        "key",
        "what",
        "account",
        "risk",
        "rights when found",
        "rights when decided",
        "recommended",
        "known wrong",
        "reviewer",
        "deputy of",
        "decision",
        "reason",
        "decided by",
        "decided at",
        "outcome",
        "revision",
        "remark",
        "history");
    for (RoundReport.ReportedItem it : items) {
      put(
          sheet,
          row++,
          it.number(),
          it.whoseName(),
          it.whose(),
          it.what(),
          it.account(),
          it.risk(),
          it.takes(),
          it.expected(),
          it.recommended(),
          it.control() ? "yes" : "",
          it.reviewer(),
          it.insteadOf(),
          it.verdict(),
          it.reason(),
          it.decidedBy(),
          it.decidedAt(),
          it.outcome(),
          it.revision(),
          it.remark(),
          String.join("; ", it.history().stream().map(ReportFiles::act).toList()));
    }
  }

  private static void put(Worksheet sheet, int row, @Nullable Object... cells) {
    List<@Nullable Object> all = Arrays.asList(cells);
    for (int column = 0; column < all.size(); column++) {
      if (all.get(column) instanceof Number number) {
        sheet.value(row, column, number);
      } else {
        sheet.value(row, column, String.valueOf(ExportTable.harmless(text(all.get(column)))));
      }
    }
  }

  private static String act(RoundReport.ReportedAct it) {
    return MOMENT.format(it.at())
        + ", "
        + Objects.requireNonNullElse(it.by(), "by rule")
        + ": "
        + it.act()
        + (it.verdict() == null ? "" : " " + it.verdict())
        + (it.to() == null ? "" : " to " + it.to())
        + (it.said() == null ? "" : " “" + it.said() + "”");
  }

  // ---- paper ------------------------------------------------------------------------------------

  private static Map<String, String> facts(RoundReport report) {
    RoundReport.ReviewSummary it = report.summary();
    Map<String, String> facts = new LinkedHashMap<>();
    facts.put("Review", it.round() + ", “" + it.title() + "”");
    facts.put("What was asked", it.what());
    if (it.why() != null) {
      facts.put("Why", it.why());
    }
    facts.put("Run by", it.owner());
    facts.put("From, to", MOMENT.format(it.begins()) + " – " + MOMENT.format(it.ends()));
    facts.put("Closed", MOMENT.format(it.closed()));
    facts.put("Revision it was made of", Long.toString(it.revision()));
    facts.put("Items", Integer.toString(it.items()));
    facts.put("People", Integer.toString(it.people()));
    facts.put(
        "Decisions",
        it.kept() + " kept, " + it.reduced() + " reduced, " + it.removed() + " removed");
    facts.put("Nobody decided", it.byRule() + " items: " + it.rule());
    facts.put("Gone from the model meanwhile", Integer.toString(it.gone()));
    facts.put("Exposure before, after", it.before() + ", " + it.after());
    RoundReport.ReviewSignature signature = report.signature();
    facts.put(
        "Signed",
        signature == null
            ? "not yet"
            : signature.name()
                + ", "
                + MOMENT.format(signature.at())
                + (signature.secondFactor() ? ", with a second factor" : ""));
    return facts;
  }

  private static byte[] paper(RoundReport report) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try (PdfPage page =
        new PdfPage(
            out,
            "Review: " + report.summary().title(),
            "closed " + MOMENT.format(report.summary().closed()))) {
      page.facts(facts(report));
      page.heading("Reviewers");
      page.list(report.reviewers().stream().map(ReportFiles::line).toList());
      page.heading("Items");
      String whose = "";
      List<String> lines = new ArrayList<>();
      for (RoundReport.ReportedItem it :
          report.items().subList(0, Math.min(ON_PAPER, report.items().size()))) {
        if (!it.whoseName().equals(whose)) {
          page.list(lines);
          lines = new ArrayList<>();
          whose = it.whoseName();
          page.subheading(whose);
        }
        lines.add(line(it));
      }
      page.list(lines);
      if (report.items().size() > ON_PAPER) {
        page.paragraph(
            "The first " + ON_PAPER + " of " + report.items().size() + "; the workbook has all.");
      }
    }
    return out.toByteArray();
  }

  private static String line(RoundReport.ReportedReviewer it) {
    return it.name()
        + ": "
        + it.items()
        + " items, "
        + it.kept()
        + " kept"
        + (it.keeps() == null ? "" : " (" + percent(it.keeps()) + ")")
        + ", "
        + it.reduced()
        + " reduced, "
        + it.removed()
        + " removed"
        + (it.pace() == null ? "" : ", " + Math.round(it.pace()) + " s between two")
        + (it.controls() == 0
            ? ""
            : ", kept " + it.controlsKept() + " of " + it.controls() + " known wrong items");
  }

  private static String line(RoundReport.ReportedItem it) {
    return it.number()
        + ". "
        + it.what()
        + (it.control() ? " (known wrong)" : "")
        + ": "
        + Objects.requireNonNullElse(it.verdict(), "no decision")
        + (it.decidedBy() == null ? "" : " by " + it.decidedBy())
        + (it.decidedAt() == null ? "" : ", " + text(it.decidedAt()))
        + (it.reason() == null ? "" : ", “" + it.reason() + "”")
        + ". "
        + it.outcome()
        + (it.revision() == null ? "" : ", revision " + it.revision())
        + (it.remark() == null ? "" : ": " + it.remark())
        + ".";
  }
}
