package mandala.server.draft;

import java.io.OutputStream;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import mandala.server.platform.PdfPage;
import org.jspecify.annotations.Nullable;

/** A whole draft on paper, as its viewer may know it: what it changes, and what that does. */
final class DraftPaper {

  /** People listed one by one. */
  private static final int MOST = 40;

  private static final DateTimeFormatter MOMENT =
      DateTimeFormatter.ofPattern("d MMM uuuu, HH:mm 'UTC'", Locale.ENGLISH)
          .withZone(ZoneOffset.UTC);

  private DraftPaper() {}

  /** Writes a draft. */
  static void write(DraftView draft, ImpactView impact, Instant now, OutputStream out) {
    try (PdfPage page =
        new PdfPage(
            out,
            title(draft),
            "by "
                + draft.owner().name()
                + ", to revision "
                + draft.revision()
                + ", as of "
                + MOMENT.format(now))) {
      page.facts(facts(draft));
      faults(draft, page);
      page.heading("Changes");
      if (draft.changes().isEmpty()) {
        page.paragraph("It changes nothing yet.");
      }
      byKind(draft)
          .forEach((kind, sentences) -> {
            page.subheading(kind.substring(0, 1).toUpperCase(Locale.ROOT) + kind.substring(1));
            page.list(sentences);
          });
      page.heading("Impact");
      impact(impact, page);
      remarks(draft, page);
    }
  }

  private static String title(DraftView draft) {
    String name = draft.name() == null ? draft.proposedName() : draft.name();
    return name.isBlank() ? "Draft" : name;
  }

  private static Map<String, String> facts(DraftView draft) {
    Map<String, String> facts = new LinkedHashMap<>();
    facts.put("State", state(draft));
    put(facts, "Reason", draft.reason());
    put(facts, "Reference", draft.reference());
    if (draft.due() != null) {
      facts.put("Applied by itself", MOMENT.format(draft.due()));
    }
    put(facts, "Not applied", draft.dueFault());
    if (!draft.reasons().isEmpty()) {
      facts.put("A second person approves, since", String.join(". ", draft.reasons()));
    }
    List<String> approved =
        draft.approvals().stream()
            .filter(DraftView.ApprovalView::counts)
            .map(it -> it.who().name() + ", " + MOMENT.format(it.at()))
            .toList();
    if (!approved.isEmpty()) {
      facts.put("Approved by", String.join("; ", approved));
    }
    facts.put("Content", draft.content());
    return facts;
  }

  private static String state(DraftView draft) {
    return draft.appliedAs() == null ? "Not applied" : "Applied as revision " + draft.appliedAs();
  }

  private static void put(Map<String, String> facts, String name, @Nullable String value) {
    if (value != null && !value.isBlank()) {
      facts.put(name, value);
    }
  }

  /** What keeps it from being applied. */
  private static void faults(DraftView draft, PdfPage page) {
    List<String> faults = new ArrayList<>();
    draft.faults().forEach(it -> faults.add(it.what() + ". " + it.next() + "."));
    draft.refusals().forEach(faults::add);
    draft.changes().forEach(it -> faults.addAll(it.refusals()));
    draft.clashes().forEach(it -> faults.add(it.name() + ": somebody else changed it meanwhile."));
    if (!faults.isEmpty()) {
      page.heading("Fix first");
      page.list(faults);
    }
  }

  private static Map<String, List<String>> byKind(DraftView draft) {
    Map<String, List<String>> kinds = new LinkedHashMap<>();
    for (DraftView.ChangeView it : draft.changes()) {
      List<String> sentences = kinds.computeIfAbsent(it.kindName(), _ -> new ArrayList<>());
      it.sentences().forEach(sentence -> sentences.add(sentence + "."));
    }
    return kinds;
  }

  private static void impact(ImpactView impact, PdfPage page) {
    switch (impact.state()) {
      case "done" -> done(impact, page);
      case "hidden" ->
          page.paragraph("Only people who can read everything in this draft can see its impact.");
      case "faulty" -> page.paragraph("Fix what is listed above to see it.");
      default -> page.paragraph("It was still being computed. Save this page again in a moment.");
    }
  }

  private static void done(ImpactView impact, PdfPage page) {
    page.paragraph(impact.summary());
    page.list(
        impact.begin().stream()
            .map(it -> "New violation: " + it.name() + ". " + it.said() + ".")
            .toList());
    page.list(
        impact.end().stream()
            .map(it -> "Resolved: " + it.name() + ". " + it.said() + ".")
            .toList());
    page.list(
        impact.people().stream()
            .limit(MOST)
            .map(it -> it.name() + " (" + it.account() + "): " + balance(it))
            .toList());
    int more = Math.max(0, impact.people().size() - MOST) + impact.more();
    if (more > 0) {
      page.paragraph("and " + more + " more");
    }
  }

  private static String balance(ImpactView.PersonView it) {
    List<String> parts = new ArrayList<>();
    if (it.gained() > 0) {
      parts.add("gains " + rights(it.gained()));
    }
    if (it.lost() > 0) {
      parts.add("loses " + rights(it.lost()));
    }
    if (it.rerouted() > 0) {
      parts.add("keeps " + rights(it.rerouted()) + " by another route");
    }
    return String.join(", ", parts);
  }

  private static String rights(long many) {
    return ImpactView.count(many, "right", "rights");
  }

  private static void remarks(DraftView draft, PdfPage page) {
    if (!draft.comments().isEmpty()) {
      page.heading("Remarks");
      page.list(
          draft.comments().stream()
              .map(it -> it.who().name() + ", " + MOMENT.format(it.at()) + ": " + it.said())
              .toList());
    }
  }
}
