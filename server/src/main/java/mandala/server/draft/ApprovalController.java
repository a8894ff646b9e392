package mandala.server.draft;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import mandala.core.model.Kind;
import mandala.core.model.Supplied;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Session;
import mandala.document.ChangeText;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.authorization.UsedRights;
import mandala.server.platform.Costly;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import mandala.server.session.SignIn;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
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
  private final DraftApplier applying;
  private final RequestContexts contexts;
  private final SignIn signIn;
  private final Trail trail;
  private final AuditContext auditContext;
  private final UsedRights used;
  private final DatedDrafts dated;
  private final DraftNotices notices;

  ApprovalController(
      SeenDrafts seen,
      Drafts drafts,
      ApprovalRequests requests,
      DraftApplier applying,
      RequestContexts contexts,
      SignIn signIn,
      Trail trail,
      AuditContext auditContext,
      DatedDrafts dated,
      DraftNotices notices,
      UsedRights used) {
    this.used = used;
    this.dated = dated;
    this.notices = notices;
    this.seen = seen;
    this.drafts = drafts;
    this.requests = requests;
    this.applying = applying;
    this.contexts = contexts;
    this.signIn = signIn;
    this.trail = trail;
    this.auditContext = auditContext;
  }

  /** What is approved: exactly this content. */
  record Content(@NotBlank String content) {}

  @Costly
  @PostMapping("/approval")
  DraftView approve(@PathVariable String id, @Valid @RequestBody Content content) {
    RequestContext context = contexts.context();
    DraftRow row = seen.row(id, context);
    DraftReview review = seen.review(row, context);
    requireNotWritten(row, context);
    requireCurrent(row, review, content.content());
    requireMayApprove(review, context);
    drafts.approve(row.id(), context.readPolicy().viewer().value(), content.content());
    requests.settle(row.id(), context.readPolicy().viewer().value());
    review
        .authority()
        .approvedOn()
        .forEach(it -> used.used(context.readPolicy().viewer(), Supplied.DRAFT_APPROVE, it));
    trail.writeAlone(
        auditContext.by(
            AuditEvent.Act.APPROVED,
            accountsOf(review),
            "Approved " + called(row) + ", content " + content.content().substring(0, 12)));
    notices.approved(row, context.readPolicy().viewer());
    return seen.view(row, context);
  }

  private static List<String> accountsOf(DraftReview review) {
    return review.authority().named().stream()
        .map(review.state().engine().catalogue()::accountOf)
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

  private void requireMayApprove(DraftReview review, RequestContext context) {
    if (!review.authority().mayApprove(context.readPolicy().session())) {
      RefusalText text = new RefusalText(review, true, context);
      List<PrincipalKey> could = text.readable(review.authority().whoCouldApprove());
      throw Problem.forbidden(
          "You need “Approve drafts” on everything this draft names."
              + (could.isEmpty()
                  ? " Ask an administrator there."
                  : " Ask " + text.names(could) + "."));
    }
  }

  private void requireNotWritten(DraftRow row, RequestContext context) {
    if (row.owner().equals(context.readPolicy().viewer().value())
        || drafts.authors(row.id()).contains(context.readPolicy().viewer().value())) {
      throw Problem.forbidden(
          "You can't approve a draft that you wrote or changed. Ask somebody else.");
    }
  }

  private static void requireCurrent(DraftRow row, DraftReview review, String content) {
    if (!row.isAlive() || !review.content().equals(content)) {
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
    RequestContext context = contexts.context();
    DraftRow row = own(id, context);
    DraftReview review = seen.review(row, context);
    Set<String> could = approversOf(row, review, context);
    for (String approver : recipients.approvers()) {
      if (!could.contains(approver)) {
        throw Problem.badRequest(
            "'" + approver + "' can't approve this draft",
            "Choose among those who can approve all of it and did not write in it.");
      }
    }
    requests.ask(row.id(), recipients.approvers());
    ChangeText text = context.text();
    trail.writeAlone(
        auditContext.by(
            AuditEvent.Act.SENT,
            accountsOf(review),
            "Sent "
                + called(row)
                + " to "
                + recipients.approvers().stream()
                    .map(it -> text.name(Kind.PRINCIPALS, it))
                    .collect(Collectors.joining(", "))));
    recipients.approvers().forEach(it -> notices.waits(row, it, false));
    return seen.view(row, context);
  }

  private Set<String> approversOf(DraftRow row, DraftReview review, RequestContext context) {
    Set<String> authors = drafts.authors(row.id());
    return new RefusalText(review, true, context)
        .readable(review.authority().whoCouldApprove()).stream()
            .map(Key::value)
            .filter(it -> !authors.contains(it))
            .collect(Collectors.toSet());
  }

  private DraftRow own(String id, RequestContext context) {
    DraftRow row = seen.row(id, context);
    if (!row.owner().equals(context.readPolicy().viewer().value())) {
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
    RequestContext context = contexts.context();
    DraftRow row = own(id, context);
    requests.remind(row.id(), person);
    notices.waits(row, person, true);
    return seen.view(row, context);
  }

  /** Takes back a request for approval. */
  @Costly
  @DeleteMapping("/requests/{person}")
  DraftView unsend(@PathVariable String id, @PathVariable String person) {
    RequestContext context = contexts.context();
    DraftRow row = own(id, context);
    requests.withdraw(row.id(), person);
    return seen.view(row, context);
  }

  /** What is declined, exactly, and why. */
  record Declining(@NotBlank String content, @NotBlank @Size(max = 2000) String reason) {}

  /** Declines a draft that one could approve; its author reads why. */
  @Costly
  @PostMapping("/decline")
  DraftView decline(@PathVariable String id, @Valid @RequestBody Declining declining) {
    RequestContext context = contexts.context();
    DraftRow row = seen.row(id, context);
    DraftReview review = seen.review(row, context);
    requireNotWritten(row, context);
    requireCurrent(row, review, declining.content());
    requireMayApprove(review, context);
    String viewer = context.readPolicy().viewer().value();
    drafts.withdraw(row.id(), viewer);
    requests.decline(row.id(), viewer, declining.content(), declining.reason());
    trail.writeAlone(
        auditContext.by(
            AuditEvent.Act.DECLINED,
            accountsOf(review),
            "Declined " + called(row) + ": " + declining.reason().strip()));
    notices.declined(row, context.readPolicy().viewer(), declining.reason().strip());
    return seen.view(row, context);
  }

  @DeleteMapping("/approval")
  DraftView withdraw(@PathVariable String id) {
    RequestContext context = contexts.context();
    DraftRow row = seen.row(id, context);
    drafts.withdraw(row.id(), context.readPolicy().viewer().value());
    return seen.view(row, context);
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
    RequestContext context = contexts.context();
    Session viewer = context.readPolicy().session();
    DraftRow row = seen.row(id, context);
    boolean factor = signIn.prove(viewer, application.proof());
    return new Applied(
        applying.apply(
            row.id(),
            application.content(),
            new Session(viewer.principal(), viewer.at(), factor || viewer.mfa(), null),
            context));
  }

  /**
   * When a draft is to be applied by itself.
   *
   * @param content the hash of what one has seen
   * @param at the instant
   * @param proof the current code of the second factor; the password where one is not enrolled
   */
  record DraftDate(
      @NotBlank String content, @NotNull Instant at, @NotNull @Size(max = 500) String proof) {}

  /** Has one's own draft applied by itself at a date. */
  @Costly
  @PutMapping("/date")
  DraftView date(@PathVariable String id, @Valid @RequestBody DraftDate date) {
    RequestContext context = contexts.context();
    Session viewer = context.readPolicy().session();
    DraftRow row = seen.row(id, context);
    boolean factor = signIn.prove(viewer, date.proof());
    Session owner = new Session(viewer.principal(), viewer.at(), factor || viewer.mfa(), null);
    dated.set(row.id(), date.content(), date.at(), owner, context);
    trail.writeAlone(
        auditContext.by(
            AuditEvent.Act.CHANGED,
            accountsOf(seen.review(row, context)),
            "Has " + called(row) + " applied at " + date.at()));
    return seen.view(seen.row(id, context), context);
  }

  /** Takes the date of one's own draft back. */
  @Costly
  @DeleteMapping("/date")
  DraftView noDate(@PathVariable String id) {
    RequestContext context = contexts.context();
    DraftRow row = own(id, context);
    dated.clear(row.id(), row.content());
    return seen.view(seen.row(id, context), context);
  }
}
