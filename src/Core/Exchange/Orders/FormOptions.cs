namespace SteadyLintel.Exchange;

/// <summary>Options of an order that go with some forms of file and not with others.</summary>
[Flags]
public enum FormOptions
{
    /// <summary>None of them.</summary>
    None = 0,

    /// <summary>Closed bodies as solids of a drawing.</summary>
    Solids = 1,

    /// <summary>A box for each element.</summary>
    Boxes = 2,

    /// <summary>Lines that sections run along.</summary>
    SectionLines = 4,

    /// <summary>Sheets.</summary>
    Sheets = 8,

    /// <summary>Properties as attributes of blocks.</summary>
    Attributes = 16,

    /// <summary>A layer table.</summary>
    LayerTable = 32,

    /// <summary>A name table, and storeys under the job's names.</summary>
    Names = 64,

    /// <summary>A schema, and all sources in one model.</summary>
    Schema = 128,

    /// <summary>Changes to storeys, layers, classes and properties.</summary>
    Changes = 256,

    /// <summary>Another class by a class table.</summary>
    OtherClasses = 512,
}

/// <summary>An option that not every form takes: whether an order has it, and what is said where the form does not.</summary>
internal sealed record FormOption(FormOptions Flag, Func<HandoverOrder, bool> IsUsed, string Refusal)
{
    private static readonly FormOption[] All =
    [
        new(FormOptions.Solids, o => o.Solids, "Solids go with drawings of bodies, not with IFC or plans."),
        new(
            FormOptions.Boxes,
            o => o.Detail == DetailLevel.Boxes,
            "Boxes go with models, drawings of bodies and triangles; plans and sections go in full or coarse."
        ),
        new(FormOptions.SectionLines, o => o.LineWork.Lines.Count > 0, "Lines of sections go with sections."),
        new(FormOptions.Sheets, o => o.Sheet is not null, "Sheets go with drawings."),
        new(FormOptions.Attributes, o => o.Attributes, "Attributes of blocks go with drawings."),
        new(
            FormOptions.LayerTable,
            o => o.Layers is not null,
            "A layer table is for drawings; names of layers in IFC are changed by a name table."
        ),
        new(
            FormOptions.Names,
            o => o.Names is not null || o.JobStoreys,
            "A name table and the job's storeys go with IFC, not with drawings."
        ),
        new(
            FormOptions.Schema,
            o => o.Schema is not null || o.Merge,
            "A schema and merging go with IFC, not with drawings or triangles."
        ),
        new(
            FormOptions.Changes,
            o => o.Edits.Count > 0,
            "Changes to storeys, layers, classes and properties go with IFC, not with drawings."
        ),
        new(
            FormOptions.OtherClasses,
            o => o.Classes?.Rows.Any(r => r.To is not null) == true,
            "Another class is possible with IFC; with drawings and triangles a class table can only leave classes out."
        ),
    ];

    /// <summary>The first option that an order has and its form does not take, as a sentence; null where there is none.</summary>
    public static string? Refused(HandoverOrder order) =>
        Array.Find(All, o => o.IsUsed(order) && !order.Into.Takes.HasFlag(o.Flag))?.Refusal;
}
