package mandala.server.draft;

import io.swagger.v3.oas.annotations.media.Content;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import jakarta.servlet.http.HttpServletResponse;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.time.Duration;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.platform.PdfPage;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

/** A draft for printing. */
@RestController
class DraftPaperController {

  private static final Duration PATIENCE = Duration.ofSeconds(10);

  private final SeenDrafts seen;
  private final SeenImpact impact;
  private final RequestContexts contexts;

  DraftPaperController(SeenDrafts seen, SeenImpact impact, RequestContexts contexts) {
    this.seen = seen;
    this.impact = impact;
    this.contexts = contexts;
  }

  /** The whole draft as PDF; its impact is waited for up to ten seconds. */
  @GetMapping("/api/drafts/{id}/paper")
  @ApiResponse(responseCode = "200", content = @Content(mediaType = PdfPage.TYPE))
  void paper(@PathVariable String id, HttpServletResponse response) throws IOException {
    RequestContext context = contexts.context();
    DraftRow row = seen.row(id, context);
    DraftView draft = seen.view(row, context);
    ImpactView does = impact.of(row, seen.review(row, context), context, PATIENCE.toMillis());
    ByteArrayOutputStream whole = new ByteArrayOutputStream();
    DraftPaper.write(draft, does, context.readPolicy().now(), whole);
    response.setContentType(PdfPage.TYPE);
    response.setHeader("Content-Disposition", "attachment; filename=\"draft.pdf\"");
    whole.writeTo(response.getOutputStream());
  }
}
