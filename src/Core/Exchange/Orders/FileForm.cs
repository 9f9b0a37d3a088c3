namespace SteadyLintel.Exchange;

/// <summary>What an order can be written into, as far as the order itself knows it: its words, what it can carry, which options go with
/// it. The target that writes it is this and more (<c>Target</c>), so that a new one is said once.</summary>
public abstract class FileForm
{
    /// <summary>The word of an order that gives no model.</summary>
    public const string None = "none";

    private static readonly List<FileForm> Registered = [];

    /// <summary>All there are, in the order in which they are offered.</summary>
    public static IReadOnlyList<FileForm> All => Registered;

    /// <summary>What it is called in sentences: <c>IFC</c>, <c>drawings</c>.</summary>
    public abstract string Family { get; }

    /// <summary>The words for it in <c>into.file</c>, each with the extension of its files.</summary>
    public abstract IReadOnlyDictionary<string, string> Files { get; }

    /// <summary>The words for it in <c>into.as</c>; none where the file says it all.</summary>
    public virtual IReadOnlyList<string> Contents => [];

    /// <summary>Whether it is meant where an order's file does not say <c>into.as</c>.</summary>
    public virtual bool IsUsual => true;

    /// <summary>The choices that a page offers for it.</summary>
    public abstract IReadOnlyList<FormChoice> Choices { get; }

    /// <summary>The options that go with it.</summary>
    public abstract FormOptions Takes { get; }

    /// <summary>Whether it has versions to choose from.</summary>
    public virtual bool HasVersions => false;

    /// <summary>Whether spatial structure is included automatically with what is on it, and so is not chosen.</summary>
    public virtual bool CarriesStructure => false;

    /// <summary>Whether models of several sources are files of their own unless they are merged.</summary>
    public virtual bool KeepsSourcesApart => false;

    /// <summary>Whether it shows elements as lines of a plan or section.</summary>
    public virtual bool DrawsLines => false;

    /// <summary>The options of it alone, out of a document.</summary>
    /// <exception cref="OrderException">A word is not known, or does not go with another.</exception>
    internal virtual HandoverOrder Read(OrderInto into, HandoverOrder order) => order;

    /// <summary>Why an order's words do not go together in it; null when they do. Options that it does not take at all are refused
    /// before.</summary>
    internal virtual string? Problem(HandoverOrder order) => null;

    /// <summary>The form of an order that gives no models: that of models, which are none.</summary>
    internal static FileForm Usual => Registered[0];

    /// <summary>The choice that a document's words mean; null for no model at all.</summary>
    public static FormChoice? ChoiceOf(OrderInto into)
    {
        if (into.File == None || Find(into) is not { } form)
            return null;
        return form.Choices.FirstOrDefault(c => form.Means(c, into)) ?? form.Choices[0];
    }

    /// <summary>The choice of a word; null where there is none.</summary>
    public static FormChoice? Choice(string word) =>
        Registered.SelectMany(f => f.Choices).FirstOrDefault(c => c.Word == word);

    /// <summary>The form of a document.</summary>
    /// <exception cref="OrderException">No file has what the document says it shows.</exception>
    internal static FileForm Of(OrderInto into)
    {
        if (into.File == None)
            return into.As is null && into.Version is null
                ? Usual
                : throw new OrderException("as and version are for models; this order gives none.");
        if (Find(into) is not { } form)
        {
            var owners = Registered.Where(f => f.Contents.Contains(into.As!)).Select(f => f.Family).Distinct();
            throw new OrderException($"{into.As} goes with {string.Join(" or ", owners)}, not with {into.File}.");
        }

        return into.Version is null || form.HasVersions
            ? form
            : throw new OrderException(
                $"version goes with {string.Join(" or ", Registered.Where(f => f.HasVersions).Select(f => f.Family).Distinct())}, not with {into.File}."
            );
    }

    /// <summary>Adds a form to those there are.</summary>
    internal static void Add(FileForm form) => Registered.Add(form);

    /// <summary>Whether a choice is what a document's words mean.</summary>
    internal virtual bool Means(FormChoice choice, OrderInto into) =>
        Files.ContainsKey(choice.Into.File) && choice.Into.Schema == into.Schema;

    private static FileForm? Find(OrderInto into) =>
        Registered.Find(f =>
            f.Files.ContainsKey(into.File) && (into.As is null ? f.IsUsual : f.Contents.Contains(into.As))
        );
}

/// <summary>One of the forms that a page offers for an order.</summary>
/// <param name="Word">Its word: <c>dwg-plan-2010</c>.</param>
/// <param name="File">The file, as people say it: <c>DWG 2010</c>.</param>
/// <param name="Content">What it carries, as a heading: <c>Plans</c>.</param>
/// <param name="Name">Both in a sentence: <c>DWG 2010, plans</c>.</param>
/// <param name="Into">What it means in an order.</param>
public sealed record FormChoice(string Word, string File, string Content, string Name, OrderInto Into);
