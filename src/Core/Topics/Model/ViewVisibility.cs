namespace SteadyLintel.Topics;

/// <summary>What is visible.</summary>
/// <param name="Default">Whether what is not named is visible; null where the file does not say, which means hidden.</param>
/// <param name="Exceptions">What is the other way round.</param>
/// <param name="Hints">Whether spaces, space boundaries and openings are visible; null where the file does not say.</param>
public sealed record ViewVisibility(bool? Default, IReadOnlyList<ViewComponent> Exceptions, ViewHints? Hints);
