using System.Runtime.InteropServices;
using System.Text;

namespace GateSplit.Core;

/// <summary>
/// One spelling of a text of the several that look alike: an é is one sign, not an e and an accent (Unicode Standard Annex 15, form C). The
/// runtime has that only with the data of all languages, which nothing else here needs; nearly every Linux has it in GLib.
/// </summary>
internal static partial class UnicodeForm
{
    private const int Composed = 1; // G_NORMALIZE_DEFAULT_COMPOSE, also called G_NORMALIZE_NFC

    /// <summary>The text in form C; as it is where GLib is not installed.</summary>
    /// <param name="text">Without halves of surrogate pairs.</param>
    public static string Of(string text)
    {
        if (text.All(char.IsAscii))
        {
            return text;
        }

        try
        {
            var bytes = Encoding.UTF8.GetBytes(text);
            var made = Normalize(bytes, bytes.Length, Composed);
            if (made == IntPtr.Zero)
            {
                return text;
            }

            try
            {
                return Marshal.PtrToStringUTF8(made)!;
            }
            finally
            {
                Free(made);
            }
        }
        catch (DllNotFoundException)
        {
            return text;
        }
    }

    [LibraryImport("libglib-2.0.so.0", EntryPoint = "g_utf8_normalize")]
    private static partial IntPtr Normalize([In] byte[] text, nint bytes, int mode);

    [LibraryImport("libglib-2.0.so.0", EntryPoint = "g_free")]
    private static partial void Free(IntPtr memory);
}
