using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>What to give and in what form.</summary>
/// <param name="Selection">Which elements go.</param>
/// <param name="Into">What it is written into.</param>
/// <param name="SplitByStorey">One file for each storey, or one in all.</param>
/// <param name="Unit">The length unit; null keeps the source's own.</param>
/// <param name="NameTemplate">File names without extension, see <see cref="Exchange.NameTemplate"/>.</param>
public sealed record HandoverOrder(
    Selection Selection,
    FileForm Into,
    bool SplitByStorey,
    LengthUnit? Unit,
    string NameTemplate = "{party}-{storey}"
)
{
    /// <summary>With IFC: the schema to write, <c>IFC2X3</c>, <c>IFC4</c> or <c>IFC4X3</c>; null keeps each source's own, or the first
    /// source's when merged.</summary>
    public string? Schema { get; init; }

    /// <summary>With IFC: whether each file is compressed.</summary>
    public bool Zip { get; init; }

    /// <summary>With IFC: the frame to write in.</summary>
    public FrameChoice Frame { get; init; } = FrameChoice.Source;

    /// <summary>With IFC: whether all sources go into one file under one project.</summary>
    public bool Merge { get; init; }

    /// <summary>Whether, beside the files that it splits into, one more holds all of it.</summary>
    public bool Together { get; init; }

    /// <summary>The same, all in one file.</summary>
    public HandoverOrder InOne() =>
        this with
        {
            SplitByStorey = false,
            SplitBy = [],
            Merge = Into.KeepsSourcesApart,
            Sheet = null,
            Together = false,
            PropertyTable = null,
        };

    /// <summary>With drawings: DXF or DWG, and the version.</summary>
    public CadForm Form { get; init; } = CadForm.Default;

    /// <summary>With drawings of bodies: whether closed ones are written as 3DSOLID, where the version has them as text (up to 2010);
    /// others stay meshes.</summary>
    public bool Solids { get; init; }

    /// <summary>With drawings of bodies: whether each element is one outer skin, without the faces inside it.</summary>
    public bool Skins { get; init; }

    /// <summary>Whether models go at all.</summary>
    public bool Models { get; init; } = true;

    /// <summary>How drawings go beside the models; null for none.</summary>
    public DrawingOrder? Drawings { get; init; }

    /// <summary>What else each file is of, beside a storey.</summary>
    public IReadOnlyList<SplitKind> SplitBy { get; init; } = [];

    /// <summary>With <see cref="SplitKind.Property"/>: the property, <c>Set.Property</c>.</summary>
    public string SplitKey { get; init; } = "";

    /// <summary>All that each file is of; none where all goes into one.</summary>
    public IReadOnlyList<SplitKind> Splits => SplitByStorey ? [SplitKind.Storey, .. SplitBy] : SplitBy;

    /// <summary>Who gets it, in words.</summary>
    public string To { get; init; } = "";

    /// <summary>With IFC: whether storeys get the names of the job's schedule.</summary>
    public bool JobStoreys { get; init; }

    /// <summary>The shortest longest side of an element that a coarse model keeps, metres.</summary>
    public const double SmallPart = 0.25;

    /// <summary>How detailed shapes go.</summary>
    public DetailLevel Detail { get; init; }

    /// <summary>With plans and sections: how they are drawn.</summary>
    public LineWork LineWork { get; init; } = new();

    /// <summary>With drawings: a layout for each file, with frame and title block; null for none.</summary>
    public SheetOrder? Sheet { get; init; }

    /// <summary>The scale drawings are meant for: letters, hatches and dashes go by it. 100 for 1:100.</summary>
    public int Scale => Sheet?.Scale ?? 100;

    /// <summary>With drawings: whether each element is a block with its properties as attributes.</summary>
    public bool Attributes { get; init; }

    /// <summary>How finely curves become chords; null for the usual.</summary>
    public Geometry.Tolerance? Tolerance { get; init; }

    /// <summary>How shapes are read for it: coarse ones without fillets.</summary>
    public Geometry.Tolerance Fineness =>
        (Tolerance ?? Geometry.Tolerance.Default) with
        {
            Fillets = Detail != DetailLevel.Coarse,
        };

    /// <summary>With drawings: layers by classes; null for the sources' own.</summary>
    public LayerTable? Layers { get; init; }

    /// <summary>The receiver's classes; null for the sources' own.</summary>
    public ClassTable? Classes { get; init; }

    /// <summary>With IFC: the receiver's names; null for the sources' own.</summary>
    public NameTable? Names { get; init; }

    /// <summary>Which properties travel; null for all as they are.</summary>
    public PropertyList? Properties { get; init; }

    /// <summary>Whether properties without a value stay, where the list does not say.</summary>
    public bool BlanksOut { get; init; }

    /// <summary>Whether quantities that are missing are computed.</summary>
    public bool Computed { get; init; }

    /// <summary>The form of a table of properties beside the files: <c>csv</c>, <c>xlsx</c> or <c>json</c>; null for none.</summary>
    public string? PropertyTable { get; init; }

    /// <summary>Whether the amendments of its sources travel.</summary>
    public bool Amendments { get; init; } = true;

    /// <summary>Whether anything is said of properties.</summary>
    public bool ChoosesProperties => Properties is not null || BlanksOut;

    /// <summary>Whether properties go as extended data of drawings, or in a table: not by themselves, as they do in a model.</summary>
    public bool DrawsProperties => Properties is not null || BlanksOut || Computed || Attributes;

    /// <summary>Whether drawings leave their own unit and frame, so that somebody must have placed them.</summary>
    public bool PlacesDrawings =>
        Drawings is { AsReceived: false } && (Unit is not null || Frame.Kind != FrameKind.Source);

    /// <summary>The name that a storey has in what is written.</summary>
    /// <param name="own">What its source calls it.</param>
    /// <param name="job">What the job calls the level; the source's name where it is on none.</param>
    public string StoreyName(string own, string job)
    {
        if (
            Edits.LastOrDefault(e =>
                e.Kind == EditKind.RenameStorey && e.From.Equals(own, StringComparison.OrdinalIgnoreCase)
            ) is
            { } edit
        )
            return edit.To;
        string name = JobStoreys ? job : own;
        return Names?.Find(NameKind.Storey, own) ?? Names?.Find(NameKind.Storey, name) ?? name;
    }

    /// <summary>What a coarse model leaves out: parts that are no longer than this.</summary>
    public static SelectionRule SmallParts { get; } =
        new(
            SelectionVerb.Without,
            RuleField.Size,
            ["", SmallPart.ToString(System.Globalization.CultureInfo.InvariantCulture)]
        )
        {
            Test = RuleTest.Between,
        };

    /// <summary>Whether spatial structure is included automatically with what is on it, and so is not chosen.</summary>
    public bool CarriesStructure => Into.CarriesStructure;

    /// <summary>Why its words do not go together; null when they do.</summary>
    /// <remarks>Said here and not where an order is typed: a drawing that ignored its order would be no answer to it.</remarks>
    public string? Problem()
    {
        if (SplitBy.Contains(SplitKind.Property) && !SplitKey.Contains('.', StringComparison.Ordinal))
            return "A file for each value of a property needs the property, Set.Property.";
        if (
            Edits.FirstOrDefault(e =>
                e.Kind == EditKind.SetProperty && Properties?.Find(e.Set, e.Property) is null && Properties is not null
            ) is
            { } set
        )
            return $"The order sets {set.Set}.{set.Property}, which its property list leaves out; put it in the list.";
        if (!Models && Drawings is null)
            return "An order without models needs drawings.";
        if (Together && Splits.Count == 0 && (!Into.KeepsSourcesApart || Merge))
            return "All is in one file already; say what each file is of, or leave 'together' out.";
        return FormOption.Refused(this) ?? Into.Problem(this);
    }

    /// <summary>With IFC: changes to names, classes, layers and properties.</summary>
    public IReadOnlyList<ModelEdit> Edits { get; init; } = [];
}
