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
public sealed record RevisionChanges(int Same, IReadOnlyList<string> Added, IReadOnlyList<string> Removed,
    IReadOnlyList<MovedElement> Moved,
    IReadOnlyList<string> Reshaped, IReadOnlyList<ChangedWord> Reclassed, IReadOnlyList<ChangedWord> Retyped,
        IReadOnlyList<ChangedWord> Relayered,
    IReadOnlyList<ChangedWord> Restoreyed, IReadOnlyList<ChangedWord> Renamed, IReadOnlyList<ChangedProperty> PropertiesChanged,
    FrameJump? FrameJump, bool PairedByShape)
{
    /// <summary>The comparison as programs read it; metres and degrees, in the newer revision's frame.</summary>
    public object Machine() => new
    {
        Same,
        Added,
        Removed,
        Moved = Moved.Select(m => new
        {
            m.GlobalId,
            By = new[] { Math.Round(m.By.X, 8), Math.Round(m.By.Y, 8), Math.Round(m.By.Z, 8) },
            m.TurnDegrees
        }),
        Reshaped,
        Reclassed,
        Retyped,
        Relayered,
        Restoreyed,
        Renamed,
        PropertiesChanged,
        FrameJump = FrameJump is { } j ? new { Shift = new[] { j.Shift.X, j.Shift.Y, j.Shift.Z }, j.TurnDegrees, j.Elements } : null,
        PairedByShape,
    };

    /// <summary>Whether nothing changed at all.</summary>
    public bool IsEmpty => FrameJump is null && Added.Count + Removed.Count + Moved.Count + Reshaped.Count + Reclassed.Count + Retyped.Count
        + Relayered.Count + Restoreyed.Count + Renamed.Count + PropertiesChanged.Count == 0;
}
