package mandala.server.session;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.util.List;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.question.Session;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Begins an impersonated view: it is checked here, and stands in the trail with both names. */
@RestController
@RequestMapping("/api/views")
class ImpersonationController {

  private final CurrentPrincipal viewer;
  private final Trail trail;
  private final AuditContext auditContext;

  ImpersonationController(CurrentPrincipal viewer, Trail trail, AuditContext auditContext) {
    this.viewer = viewer;
    this.trail = trail;
    this.auditContext = auditContext;
  }

  /** With whose eyes. */
  record ViewWanted(@NotBlank @Size(max = 200) String principal) {}

  /** Whose eyes they are. */
  record ViewBegun(String key, String name, boolean enrolled) {}

  @PostMapping
  ViewBegun begin(@Valid @RequestBody ViewWanted wanted) {
    Session own = viewer.signedIn();
    Principal whom = viewer.requireSeen(wanted.principal(), own);
    String name = whom.about().nameOr(whom.key());
    Impersonations.begin(whom.key().value());
    trail.writeAlone(
        auditContext
            .by(
                AuditEvent.Act.ASKED,
                List.of(whom.account().value()),
                "Began to see Mandala as " + name + " would")
            .inNameOf(whom.key().value())
            .about(Kind.PRINCIPALS.field(), whom.key().value(), name, List.of()));
    return new ViewBegun(
        whom.key().value(), name, whom.kind() == Principal.Kind.PERSON && whom.mfa());
  }

  /** Ends a view; one that is not there has ended already. */
  @DeleteMapping("/{principal}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void end(@PathVariable String principal) {
    viewer.signedIn();
    if (Impersonations.end(principal)) {
      trail.writeAlone(
          auditContext
              .atHome(
                  AuditEvent.Act.ASKED,
                  viewer.signedIn().principal().value(),
                  "Ended an impersonated view")
              .inNameOf(principal));
    }
  }
}
