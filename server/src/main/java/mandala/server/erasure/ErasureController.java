package mandala.server.erasure;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import mandala.server.authorization.RequestContexts;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Erases the personal facts of somebody who left long ago. */
@RestController
@RequestMapping("/api/people/{key}/erasure")
class ErasureController {

  private final ErasureDesk desk;
  private final RequestContexts contexts;

  ErasureController(ErasureDesk desk, RequestContexts contexts) {
    this.desk = desk;
    this.contexts = contexts;
  }

  /**
   * When somebody may be erased.
   *
   * @param left when they left; absent where that is not known, being long ago
   * @param earliest from when they may be erased; absent likewise
   * @param ordered whether it is ordered, and happens within minutes
   */
  record ErasureOutlook(
      String name, @Nullable Instant left, @Nullable Instant earliest, boolean ordered) {}

  /** When somebody may be erased; also of those who are no longer in the model. */
  @GetMapping
  ErasureOutlook outlook(@PathVariable String key) {
    return desk.outlook(key, contexts.context());
  }

  /**
   * The law asks to forget somebody.
   *
   * @param proof the current code of the caller's second factor
   * @param reason stays in the trail
   */
  record ErasureOrder(
      @NotBlank @Size(max = 500) String proof, @NotBlank @Size(max = 2000) String reason) {}

  /** Erases somebody: their record goes at once, what names them within minutes. */
  @PostMapping
  @ResponseStatus(HttpStatus.ACCEPTED)
  void erase(@PathVariable String key, @Valid @RequestBody ErasureOrder order) {
    desk.order(key, order.proof(), order.reason(), contexts.context());
  }
}
