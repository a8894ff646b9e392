package mandala.server.draft;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import mandala.core.model.Key;
import mandala.core.model.Kind;
import mandala.core.question.Session;
import mandala.document.ChangeText;
import mandala.server.access.Look;
import mandala.server.access.Sights;
import mandala.server.platform.Costly;
import mandala.server.platform.Problem;
import mandala.server.session.SignIn;
import mandala.server.session.Trace;
import mandala.server.trail.Happening;
import mandala.server.trail.Trail;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** A second person's approval of a draft, and applying it. */
@RestController
@RequestMapping("/api/drafts/{id}")
class ApprovalController {

  private final SeenDrafts seen;
  private final Drafts drafts;
  private final ApprovalRequests requests;
  private final Applying applying;
  private final Sights sights;
  private final SignIn signIn;
  private final Trail trail;
  private final Trace trace;

  ApprovalController(
      SeenDrafts seen,
      Drafts drafts,
      ApprovalRequests requests,
      Applying applying,
      Sights sights,
      SignIn signIn,
      Trail trail,
      Trace trace) {
    this.seen = seen;
    this.drafts = drafts;
    this.requests = requests;
    this.applying = applying;
    this.sights = sights;
    this.signIn = signIn;
    this.trail = trail;
    this.trace = trace;
  }

  /** What is approved: exactly this content. */
  record Content(@NotBlank String content) {}

  @Costly
  @PostMapping("/approval")
  DraftView approve(@PathVariable String id, @Valid @RequestBody Content content) {
    Look look = sights.look();
    DraftRow row = seen.row(id, look);
    Judged judged = seen.judged(row, look);
    requireNotWritten(row, look);
    requireCurrent(row, judged, content.content());
    requireMayApprove(judged, look);
    drafts.approve(row.id(), look.sight().viewer().value(), content.content());
    requests.settle(row.id(), look.sight().viewer().value());
    trail.writeAlone(
        trace.by(
            Happening.Act.APPROVED,
            accountsOf(judged),
            "Approved " + called(row) + ", content " + content.content().substring(0, 12)));
    return seen.view(row, look);
  }

  private static List<String> accountsOf(Judged judged) {
    return judged.authority().named().stream()
        .map(judged.state().engine().catalogue()::accountOf)
        .filter(Objects::nonNull)
        .map(Key::value)
        .distinct()
        .toList();
  }

  /**
   * {@return a draft in the words of the trail}, by the name that its author gave it: what it does
   * may name things that readers of the trail may not know
   */
  private static String called(DraftRow row) {
    return "the draft of " + row.owner() + (row.name() == null ? "" : ", “" + row.name() + "”");
  }

  private void requireMayApprove(Judged judged, Look look) {
    if (!judged.authority().mayApprove(look.sight().session())) {
      RefusalText text = new RefusalText(judged, true, look);
      List<Key.Principal> could = text.readable(judged.authority().whoCouldApprove());
      throw Problem.forbidden(
          "You need “Approve drafts” on everything this draft names."
              + (could.isEmpty()
                  ? " Ask an administrator there."
                  : " Ask " + text.names(could) + "."));
    }
  }

  private void requireNotWritten(DraftRow row, Look look) {
    if (row.owner().equals(look.sight().viewer().value())
        || drafts.authors(row.id()).contains(look.sight().viewer().value())) {
      throw Problem.forbidden(
          "You can't approve a draft that you wrote or changed. Ask somebody else.");
    }
  }

  private static void requireCurrent(DraftRow row, Judged judged, String content) {
    if (!row.isAlive() || !judged.content().equals(content)) {
      throw Problem.conflict(
          "The draft was changed meanwhile",
          "An answer is about exact content. Look at the draft as it is now, and answer then.");
    }
  }

  /** Whom to ask for their approval. */
  record Recipients(
      @NotEmpty @Size(max = ApprovalRequests.MOST)
          List<@NotBlank @Size(max = 200) String> approvers) {}

  /** Sends one's own draft to people who can approve it. */
  @Costly
  @PostMapping("/requests")
  DraftView send(@PathVariable String id, @Valid @RequestBody Recipients recipients) {
    Look look = sights.look();
    DraftRow row = own(id, look);
    Judged judged = seen.judged(row, look);
    Set<String> could = approversOf(row, judged, look);
    for (String approver : recipients.approvers()) {
      if (!could.contains(approver)) {
        throw Problem.badRequest(
            "'" + approver + "' can't approve this draft",
            "Choose among those who can approve all of it and did not write in it.");
      }
    }
    requests.ask(row.id(), recipients.approvers());
    ChangeText text = look.text();
    trail.writeAlone(
        trace.by(
            Happening.Act.SENT,
            accountsOf(judged),
            "Sent "
                + called(row)
                + " to "
                + recipients.approvers().stream()
                    .map(it -> text.name(Kind.PRINCIPALS, it))
                    .collect(Collectors.joining(", "))));
    return seen.view(row, look);
  }

  private Set<String> approversOf(DraftRow row, Judged judged, Look look) {
    Set<String> authors = drafts.authors(row.id());
    return new RefusalText(judged, true, look)
        .readable(judged.authority().whoCouldApprove()).stream()
            .map(Key::value)
            .filter(it -> !authors.contains(it))
            .collect(Collectors.toSet());
  }

  private DraftRow own(String id, Look look) {
    DraftRow row = seen.row(id, look);
    if (!row.owner().equals(look.sight().viewer().value())) {
      throw Problem.forbidden("Only its owner sends a draft for approval. Ask them to.");
    }
    if (!row.isAlive() || row.draft().isEmpty()) {
      throw Problem.conflict(
          row.isAlive() ? "The draft is empty" : "The draft is " + row.state().word(),
          "There is nothing to approve. Add a change to it, or start a new draft.");
    }
    return row;
  }

  /** Reminds somebody of a draft that was sent to them. */
  @Costly
  @PostMapping("/requests/{person}/reminder")
  DraftView remind(@PathVariable String id, @PathVariable String person) {
    Look look = sights.look();
    DraftRow row = own(id, look);
    requests.remind(row.id(), person);
    return seen.view(row, look);
  }

  /** Takes back a request for approval. */
  @Costly
  @DeleteMapping("/requests/{person}")
  DraftView unsend(@PathVariable String id, @PathVariable String person) {
    Look look = sights.look();
    DraftRow row = own(id, look);
    requests.withdraw(row.id(), person);
    return seen.view(row, look);
  }

  /** What is declined, exactly, and why. */
  record Declining(@NotBlank String content, @NotBlank @Size(max = 2000) String reason) {}

  /** Declines a draft that one could approve; its author reads why. */
  @Costly
  @PostMapping("/decline")
  DraftView decline(@PathVariable String id, @Valid @RequestBody Declining declining) {
    Look look = sights.look();
    DraftRow row = seen.row(id, look);
    Judged judged = seen.judged(row, look);
    requireNotWritten(row, look);
    requireCurrent(row, judged, declining.content());
    requireMayApprove(judged, look);
    String viewer = look.sight().viewer().value();
    drafts.withdraw(row.id(), viewer);
    requests.decline(row.id(), viewer, declining.content(), declining.reason());
    trail.writeAlone(
        trace.by(
            Happening.Act.DECLINED,
            accountsOf(judged),
            "Declined " + called(row) + ": " + declining.reason().strip()));
    return seen.view(row, look);
  }

  @DeleteMapping("/approval")
  DraftView withdraw(@PathVariable String id) {
    Look look = sights.look();
    DraftRow row = seen.row(id, look);
    drafts.withdraw(row.id(), look.sight().viewer().value());
    return seen.view(row, look);
  }

  /**
   * What is to be applied, and the proof that it is oneself who applies it.
   *
   * @param proof the current code of the second factor; the password where one is not enrolled
   */
  record Application(@NotBlank String content, @NotNull @Size(max = 500) String proof) {}

  /** The revision that was made. */
  record Applied(long revision) {}

  @Costly
  @PostMapping("/apply")
  Applied apply(@PathVariable String id, @Valid @RequestBody Application application) {
    Look look = sights.look();
    Session viewer = look.sight().session();
    DraftRow row = seen.row(id, look);
    boolean factor = signIn.prove(viewer, application.proof());
    return new Applied(
        applying.apply(
            row.id(),
            application.content(),
            new Session(viewer.principal(), viewer.at(), factor || viewer.mfa(), null),
            look));
  }
}
