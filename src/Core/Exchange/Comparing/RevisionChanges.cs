using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>An element that lies elsewhere.</summary>
/// <param name="GlobalId">In the newer revision.</param>
/// <param name="By">From where it lay, carried along by the frame's jump if there is one, to where it lies; metres, in the newer revision's
/// frame.</param>
/// <param name="TurnDegrees">How far its axes turned, 0 … 180.</param>
public sealed record MovedElement(string GlobalId, Vec3 By, double TurnDegrees);

/// <summary>A word of an element that changed.</summary>
public sealed record ChangedWord(string GlobalId, string Old, string New);

/// <summary>Elements that nobody can tell from one another.</summary>
/// <param name="Old">Their GlobalIds in the older revision.</param>
/// <param name="New">Their GlobalIds in the newer revision.</param>
public sealed record AmbiguousElements(IReadOnlyList<string> Old, IReadOnlyList<string> New);

/// <summary>A property that changed; null where the element has none of this name.</summary>
public sealed record ChangedProperty(string GlobalId, string Set, string Property, string? Old, string? New);

/// <summary>A transform that most elements share: X_new = Shift + Rz(Turn) · X_old.</summary>
/// <param name="Shift">Metres.</param>
/// <param name="TurnDegrees">Counter-clockwise.</param>
/// <param name="Elements">How many elements share it.</param>
public sealed record FrameJump(Vec3 Shift, double TurnDegrees, int Elements)
{
    /// <summary>The transform.</summary>
    public Frame Frame
    {
        get
        {
            var (x, y) = SettingOutDocument.Axes(TurnDegrees, 1);
            return new Frame(Shift, x, y, Vec3.AxisZ);
        }
    }
}

/// <summary>What became of a source's elements from one revision to another.</summary>
/// <param name="Same">How many elements are in both and did not change.</param>
/// <param name="Added">Only in the newer, by GlobalId.</param>
/// <param name="Removed">Only in the older, by GlobalId.</param>
/// <param name="Moved">Elsewhere, beyond what the frame's jump explains.</param>
/// <param name="Reshaped">Of another shape.</param>
/// <param name="Reclassed">Of another class.</param>
/// <param name="Retyped">Of another type.</param>
/// <param name="Relayered">On other layers.</param>
/// <param name="Restoreyed">In another storey.</param>
/// <param name="Renamed">Of another name.</param>
/// <param name="PropertiesChanged">Properties with another value.</param>
/// <param name="FrameJump">The transform that most elements share; null where most stayed.</param>
/// <param name="PairedByShape">Whether elements were paired by class, place and shape, because the GlobalIds are new.</param>
public sealed record RevisionChanges(
    int Same,
    IReadOnlyList<string> Added,
    IReadOnlyList<string> Removed,
    IReadOnlyList<MovedElement> Moved,
    IReadOnlyList<string> Reshaped,
    IReadOnlyList<ChangedWord> Reclassed,
    IReadOnlyList<ChangedWord> Retyped,
    IReadOnlyList<ChangedWord> Relayered,
    IReadOnlyList<ChangedWord> Restoreyed,
    IReadOnlyList<ChangedWord> Renamed,
    IReadOnlyList<ChangedProperty> PropertiesChanged,
    FrameJump? FrameJump,
    bool PairedByShape
)
{
    /// <summary>Of other materials.</summary>
    public IReadOnlyList<ChangedWord> Rematerialed { get; init; } = [];

    /// <summary>Of another predefined type.</summary>
    public IReadOnlyList<ChangedWord> Repredefined { get; init; } = [];

    /// <summary>In other systems, zones or groups.</summary>
    public IReadOnlyList<ChangedWord> Regrouped { get; init; } = [];

    /// <summary>Otherwise classified.</summary>
    public IReadOnlyList<ChangedWord> Reclassified { get; init; } = [];

    /// <summary>With relationships added or removed: the words are those that the other revision lacks.</summary>
    public IReadOnlyList<ChangedWord> Related { get; init; } = [];

    /// <summary>Recognised by class, place, shape and name under another GlobalId: the words are the GlobalIds. Empty where all are
    /// new.</summary>
    public IReadOnlyList<ChangedWord> Reidentified { get; init; } = [];

    /// <summary>Storeys that moved, were renamed, added or removed.</summary>
    public IReadOnlyList<ChangedStorey> Storeys { get; init; } = [];

    /// <summary>Elements with new GlobalIds of which several are alike at one place, so that nobody can say which is which. They count
    /// neither as added nor as removed.</summary>
    public IReadOnlyList<AmbiguousElements> Ambiguous { get; init; } = [];

    /// <summary>The comparison as programs read it; metres and degrees, in the newer revision's frame.</summary>
    public object Machine() =>
        new
        {
            Same,
            Added,
            Removed,
            Moved = Moved.Select(m => new
            {
                m.GlobalId,
                By = new[] { Math.Round(m.By.X, 8), Math.Round(m.By.Y, 8), Math.Round(m.By.Z, 8) },
                m.TurnDegrees,
            }),
            Reshaped,
            Reclassed,
            Retyped,
            Relayered,
            Restoreyed,
            Renamed,
            PropertiesChanged,
            MaterialsChanged = Rematerialed,
            PredefinedTypesChanged = Repredefined,
            GroupsChanged = Regrouped,
            ClassificationsChanged = Reclassified,
            RelationshipsChanged = Related,
            Reidentified,
            StoreysChanged = Storeys,
            Ambiguous,
            FrameJump = FrameJump is { } j
                ? new
                {
                    Shift = new[] { j.Shift.X, j.Shift.Y, j.Shift.Z },
                    j.TurnDegrees,
                    j.Elements,
                }
                : null,
            PairedByShape,
        };

    /// <summary>Whether nothing changed at all.</summary>
    public bool IsEmpty =>
        FrameJump is null
        && Added.Count
            + Removed.Count
            + Moved.Count
            + Reshaped.Count
            + Reclassed.Count
            + Retyped.Count
            + Relayered.Count
            + Restoreyed.Count
            + Renamed.Count
            + PropertiesChanged.Count
            + Rematerialed.Count
            + Repredefined.Count
            + Regrouped.Count
            + Reclassified.Count
            + Related.Count
            + Reidentified.Count
            + Storeys.Count
            + Ambiguous.Count
            == 0;

    /// <summary>Every list of elements of which a word changed.</summary>
    public IEnumerable<ChangedWord> Words =>
        Reclassed
            .Concat(Retyped)
            .Concat(Relayered)
            .Concat(Restoreyed)
            .Concat(Renamed)
            .Concat(Rematerialed)
            .Concat(Repredefined)
            .Concat(Regrouped)
            .Concat(Reclassified)
            .Concat(Related)
            .Concat(Reidentified);
}
