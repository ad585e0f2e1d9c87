namespace GateSplit.Core.Sound;

/// <summary>How one sample is stored in a file, little endian.</summary>
public enum SampleFormat
{
    /// <summary>Unsigned 8 bit, 128 is zero.</summary>
    Pcm8,

    /// <summary>Signed 16 bit.</summary>
    Pcm16,

    /// <summary>Signed 24 bit, packed in three bytes.</summary>
    Pcm24,

    /// <summary>Signed 32 bit.</summary>
    Pcm32,

    /// <summary>IEEE 754 single precision, full scale 1.0.</summary>
    Float32,

    /// <summary>IEEE 754 double precision, full scale 1.0.</summary>
    Float64,
}
