namespace SteadyLintel.Cad;

/// <summary>The kind of value a group code announces.</summary>
public enum GroupKind
{
    /// <summary>Text.</summary>
    Text,

    /// <summary>A double.</summary>
    Double,

    /// <summary>Sixteen bits.</summary>
    Short,

    /// <summary>Thirty-two bits.</summary>
    Int,

    /// <summary>Sixty-four bits.</summary>
    Long,

    /// <summary>True or false.</summary>
    Bool,

    /// <summary>A handle in hexadecimal.</summary>
    Handle,

    /// <summary>Bytes in hexadecimal.</summary>
    Binary,
}
