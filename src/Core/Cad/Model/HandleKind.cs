namespace SteadyLintel.Cad;

/// <summary>How an object holds on to another; the numbers are the codes of handle references in DWG.</summary>
public enum HandleKind
{
    /// <summary>Says no more than the number.</summary>
    Plain = 0,

    /// <summary>Owns, but the owned may be thrown away.</summary>
    SoftOwner = 2,

    /// <summary>Owns and needs.</summary>
    HardOwner = 3,

    /// <summary>Points.</summary>
    SoftPointer = 4,

    /// <summary>Points and needs.</summary>
    HardPointer = 5,
}
