/**
 * Reading and writing {@code mandala-model/1} documents; entry points {@link
 * mandala.document.DocumentReader} and {@link mandala.document.DocumentWriter} (access-model.md,
 * section 10).
 */
@NullMarked
package mandala.document;

import org.jspecify.annotations.NullMarked;
