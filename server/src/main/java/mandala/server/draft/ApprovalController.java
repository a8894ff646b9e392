package mandala.server.draft;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.Objects;
import mandala.core.engine.Session;
import mandala.core.model.Key;
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
  private final Applying applying;
  private final Sights sights;
  private final SignIn signIn;
  private final Trail trail;
  private final Trace trace;

  ApprovalController(
      SeenDrafts seen,
      Drafts drafts,
      Applying applying,
      Sights sights,
      SignIn signIn,
      Trail trail,
      Trace trace) {
    this.seen = seen;
    this.drafts = drafts;
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
    if (row.owner().equals(look.sight().viewer().value())
        || drafts.authors(row.id()).contains(look.sight().viewer().value())) {
      throw Problem.forbidden(
          "You can't approve a draft that you wrote or changed. Ask somebody else.");
    }
    if (!row.isAlive() || !judged.content().equals(content.content())) {
      throw Problem.conflict(
          "The draft was changed meanwhile",
          "An approval is of exact content. Look at it as it is now, and approve that.");
    }
    if (!judged.authority().mayApprove(look.sight().session())) {
      RefusalText text = new RefusalText(judged, true, look);
      List<Key.Principal> could = text.readable(judged.authority().whoCouldApprove());
      throw Problem.forbidden(
          "You need “Approve drafts” on everything this draft names."
              + (could.isEmpty()
                  ? " Ask an administrator there."
                  : " Ask " + text.names(could) + "."));
    }
    drafts.approve(row.id(), look.sight().viewer().value(), content.content());
    trail.writeAlone(
        trace.by(
            Happening.Act.APPROVED,
            judged.authority().named().stream()
                .map(look.state().engine().catalogue()::accountOf)
                .filter(Objects::nonNull)
                .map(Key::value)
                .distinct()
                .toList(),
            "Approved the draft of "
                + row.owner()
                + (row.name() == null ? "" : ", “" + row.name() + "”")
                + ", content "
                + content.content().substring(0, 12)));
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
